"""Stages: what they made is kept by what they read, in the cache that is in use, and nowhere else."""

import pickle
import threading
from concurrent.futures import ThreadPoolExecutor

import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st

from zinnet.base.frozen import Frozen
from zinnet.base.keys import Key
from zinnet.base.stages import AsideCache, LeftOff, StageCache, cache_in_use, carried, stage, while_wanted


class Measure(Frozen):
    """A value, as a job is made of."""

    name: str
    mm: float = 0.0
    parts: tuple[int, ...] = ()


@pytest.fixture
def made():
    """Return a stage that keeps three results, and the list of what it was really asked for."""
    asked = []

    @stage(most=3)
    def doubled(measure, *, times=2):
        asked.append(measure)
        if measure.mm < 0:
            raise ValueError(measure.name)
        return measure.mm * times

    return doubled, asked


def test_what_is_read_again_is_made_once_in_a_cache_and_every_time_without_one(made):
    doubled, asked = made
    with StageCache().in_use():
        assert doubled(Measure(name="chest", mm=5)) == doubled(Measure(name="chest", mm=5)) == 10
        assert len(asked) == 1
        assert doubled(Measure(name="chest", mm=5), times=3) == 15
        assert len(asked) == 2
    outside = threading.Thread(target=lambda: [doubled(Measure(name="chest", mm=5)) for _ in range(2)])
    outside.start()
    outside.join()
    assert len(asked) == 4, "a thread of its own has no cache in use"


def test_two_caches_know_nothing_of_one_another(made):
    doubled, asked = made
    first, second = StageCache(), StageCache()
    for cache in (first, second, first):
        with cache.in_use():
            doubled(Measure(name="neck", mm=1))
    assert len(asked) == 2


def test_the_cache_before_is_in_use_again_after_a_block_also_after_an_error(made):
    doubled, _ = made
    before = cache_in_use()
    with pytest.raises(ValueError, match="hem"), StageCache().in_use():
        doubled(Measure(name="hem", mm=-1))
    assert cache_in_use() is before


def test_what_raises_is_not_kept(made):
    doubled, asked = made
    with StageCache().in_use():
        for _ in range(2):
            with pytest.raises(ValueError, match="hem"):
                doubled(Measure(name="hem", mm=-1))
    assert len(asked) == 2


def test_of_many_results_those_asked_for_last_are_kept(made):
    doubled, asked = made
    with StageCache().in_use():
        for mm in (1, 2, 3, 1, 4):
            doubled(Measure(name="x", mm=mm))
        assert len(asked) == 4
        doubled(Measure(name="x", mm=1))
        assert len(asked) == 4, "1 was asked for after 2, so 2 went"
        doubled(Measure(name="x", mm=2))
        assert len(asked) == 5


def test_a_thread_that_is_given_work_here_keeps_it_here(made):
    doubled, asked = made
    with StageCache().in_use(), ThreadPoolExecutor(4) as pool:
        values = [Measure(name="x", mm=k % 3) for k in range(60)]
        assert list(pool.map(carried(doubled), values)) == [2 * (k % 3) for k in range(60)]
        assert doubled(Measure(name="x", mm=2)) == 4
    assert len(asked) <= 3 * 4, "at most each thread made each of the three before another one had kept it"


@given(st.text(max_size=5), st.floats(-1e6, 1e6), st.lists(st.integers(), max_size=3))
def test_equal_values_have_one_hash_and_a_changed_copy_has_its_own(name, mm, parts):
    one = Measure(name=name, mm=mm, parts=tuple(parts))
    hash(one)
    other = Measure(name=name, mm=mm, parts=tuple(parts))
    assert (one, hash(one)) == (other, hash(other))
    changed = one.model_copy(update={"parts": (*parts, 7)})
    assert changed != one
    assert hash(changed) == hash(Measure(name=name, mm=mm, parts=(*parts, 7)))


def test_geometries_are_told_apart_by_their_content():
    asked = []

    @stage(most=8)
    def area(region, others):
        asked.append(region)
        return region.area + sum(one.area for one in others)

    def square(side, notch=0.0):
        return shapely.Polygon([(0, 0), (side, 0), (side, side), (notch, side - notch), (0, side)])

    with StageCache().in_use():
        assert [area(square(2.0), (square(1.0),)) for _ in range(3)] == [5.0] * 3
        assert len(asked) == 1
        assert area(square(2.0, 0.5), (square(1.0),)) != 5.0, "the same box and as many points, another outline"
        assert area(square(2.0), (square(1.0, 0.25),)) != 5.0
        assert [area(shapely.Polygon(), ()) for _ in range(2)] == [0.0, 0.0]
        assert len(asked) == 4
    key = Key((square(2.0), "x"))
    assert pickle.loads(pickle.dumps(key)) == key
    assert Key((square(2.0), "y")) != key


# memory


class Memory:
    """A process that uses what it is told."""

    used = 0

    def __call__(self):
        return self.used


@pytest.fixture
def chain():
    """Return a stage that rests on another one, and what both were really asked for."""
    asked = []

    @stage(most=100)
    def lower(number):
        asked.append(("lower", number))
        return number + 1

    @stage(most=100)
    def upper(number):
        asked.append(("upper", number))
        return lower(number) * 10

    return upper, lower, asked


def test_where_memory_runs_short_what_is_not_needed_goes_and_what_the_last_turn_rests_on_stays(chain):
    upper, lower, asked = chain
    memory = Memory()
    cache = StageCache(budget=1000, memory_in_use=memory)
    for number in range(10):
        with cache.in_use():
            upper(number)
    memory.used = 5000
    with cache.in_use():
        assert upper(3) == 40
    asked.clear()
    memory.used = 0
    with cache.in_use():
        assert (upper(3), lower(3)) == (40, 4)
        assert asked == [], "what upper(3) rests on was not asked for in that turn, and is still there"
        upper(5)
    assert asked == [("upper", 5), ("lower", 5)]


def test_where_there_is_room_nothing_goes(chain):
    upper, _, asked = chain
    memory = Memory()
    cache = StageCache(budget=1000, memory_in_use=memory)
    for _ in range(2):
        for number in range(10):
            memory.used = 100 * number
            with cache.in_use():
                upper(number)
    assert len(asked) == 20


def test_half_of_what_is_not_needed_goes_where_that_is_enough(chain):
    upper, _, asked = chain
    used = iter([0, *[0] * 10, 5000, 0])
    cache = StageCache(budget=1000, memory_in_use=lambda: next(used, 0))
    for number in range(11):
        with cache.in_use():
            upper(number)
    asked.clear()
    with cache.in_use():
        for number in range(11):
            upper(number)
    assert [name for name, _ in asked].count("upper") == 5


def test_what_a_cache_hands_on_is_made_in_no_other_again(chain):
    upper, lower, asked = chain
    first, second = StageCache(), StageCache()
    with first.in_use():
        upper(7)
    second.take_over(first.handed_on())
    asked.clear()
    with second.in_use():
        assert (upper(7), lower(7)) == (80, 8)
    assert asked == []


def test_a_look_aside_finds_what_is_kept_keeps_its_own_and_can_be_left_off():
    made = []

    @stage(most=8)
    def double(value):
        made.append(value)
        return 2 * value

    cache, wanted = StageCache(), [True]
    with cache.in_use():
        double(3)
    aside = AsideCache(cache, lambda: wanted[0])
    with aside.in_use():
        assert (double(3), double(4)) == (6, 8)
        assert double(4) == 8
    with cache.in_use():
        double(4)
    assert made == [3, 4, 4]
    wanted[0] = False
    with pytest.raises(LeftOff), aside.in_use():
        double(3)


def test_work_that_is_no_longer_wanted_is_left_at_the_next_stage_and_what_was_made_is_kept():
    made, wanted = [], [True]

    @stage()
    def doubled(number):
        made.append(number)
        wanted[0] = False
        return 2 * number

    cache = StageCache()
    with cache.in_use(), while_wanted(lambda: wanted[0]):
        doubled(1)
        with pytest.raises(LeftOff):
            doubled(2)
    assert made == [1]
    with cache.in_use():
        assert doubled(1) == 2
    assert made == [1]


def test_work_in_other_threads_is_left_too():
    @stage()
    def halved(number):
        return number / 2

    with StageCache().in_use(), while_wanted(lambda: False):
        work = carried(halved)
    with ThreadPoolExecutor(1) as pool, pytest.raises(LeftOff):
        pool.submit(work, 4).result()
