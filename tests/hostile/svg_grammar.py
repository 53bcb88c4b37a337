"""A grammar of SVG: files of every feature that the reader knows, with values that no program should write."""

import random

NS = 'xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink"'
NUMBERS = ("0", "-0", "1e-200", "1e308", "-1e308", "1e400", "NaN", "1e9", "-5", ".5", "5.", "+7", "1e-9", "99999999999")
UNITS = ("", "", "", "mm", "cm", "in", "pt", "pc", "px", "em", "rem", "%", "vw", "q", "furlong")
COLOURS = (
    "red", "#d62828", "#0f08", "rgb(10 20 30)", "rgb(10% 20% 30% / .4)", "hsl(90deg 50% 50%)", "hwb(90 10% 20%)",
    "lab(50 40 -20)", "lch(50 40 120)", "oklab(.5 .1 -.1)", "oklch(.6 .2 300)", "color(display-p3 1 0 .5)",
    "color(xyz .2 .3 .4)", "color(nowhere 1 2)", "currentColor", "transparent", "none", "inherit", "context-fill",
    "url(#g0)", "url(#g1) blue", "url(#p0)", "url(#none)", "rgb(", "color-mix(in srgb, red, blue)", "#", "",
)  # fmt: skip
TRANSFORMS = (
    "translate(5 7)", "scale(2)", "scale(1e308)", "scale(1e-300)", "scale(0)", "scale(-1 1)", "rotate(.25turn)",
    "rotate(30 5 5)", "skewX(89.9999)", "skewX(90)", "matrix(1 2 2 4 0 0)", "matrix(1e200 0 0 1e200 0 0)",
    "translateX(3mm)", "rotate3d(1,1,1,45deg)", "scale(NaN)", "translate(1e300)", "rotate(1e308)", "none", "",
)  # fmt: skip
CSS = (
    ".a{fill:red}", ".a .a .a{stroke:blue}", ".a{.b{fill:red}}", "@media print{*{fill:red}}", "*{stroke-width:3}",
    "@import 'x.css';", "rect:not(.a):nth-child(2n+1){fill:#123456}", ".a{fill:var(--x, red)}", ":root{--x:#0a0}",
    "g>rect+circle~path{fill:oklch(.6 .2 300)}", "}{", "/*", ".a{fill:red !important", "@font-face{src:url(x)}",
    "[id^=s]{opacity:.5}", "svg|rect{fill:red}", ".a{d:path('M0 0h9v9z')}", "@charset 'x';", "<!-- .a{} -->",
)  # fmt: skip
COMMANDS = "MmLlHhVvCcSsQqTtAaZz"
COUNTS = {"m": 2, "l": 2, "h": 1, "v": 1, "c": 6, "s": 4, "q": 4, "t": 2, "a": 7, "z": 0}
TAME = ("translate(5 7)", "scale(2)", "scale(.5 -1)", "rotate(30 5 5)", "skewX(20)", "matrix(1 .2 -.2 1 4 4)")
VIEWS = ("0 0 100 100", "0 0 1e9 1e-9", "-5 -5 10 10", "0 0 0 0", "a b c d", "0,0,9,9")
IMAGES = ("x.png", "data:image/png;base64,AAAA", "data:image/svg+xml,%3Csvg/%3E", "file:///dev/zero")
SHAPES = ("rect", "circle", "ellipse", "line", "polyline", "polygon", "path", "use", "text", "image")
BOXES = ("g", "g", "a", "svg", "symbol", "switch", "marker", "mask", "clipPath", "pattern", "defs")
MOST_DEPTH = 5


class Grammar:
    """One file after another, by chance."""

    def __init__(self, chance: random.Random) -> None:
        self.chance = chance
        self.left, self.wild = 0, 0.0

    def file(self) -> bytes:
        """Return a file."""
        chance = self.chance
        self.left = chance.choice((3, 8, 20, 60))
        self.wild = chance.choice((0.0, 0.01, 0.05, 0.2))
        body = "".join(self._element(0) for _ in range(chance.randint(1, 6)))
        page = "".join(
            self._maybe(0.7, name, value)
            for name, value in (
                ("viewBox", chance.choice(VIEWS) if self._is_strange() else "0 0 100 100"),
                ("width", self._length() if self._is_strange() else "120mm"),
                ("height", self._length() if self._is_strange() else "120"),
                ("preserveAspectRatio", chance.choice(("none", "xMidYMid slice", "xMaxYMin", "what"))),
            )
        )
        text = f"<svg {NS} {page}>{self._definitions()}{body}</svg>"
        if chance.random() < 0.05:
            text = text.replace("><", ">\r<")
        coding = chance.choice(("utf-16", "latin-1")) if self._is_strange() else "utf-8"
        head = f'<?xml version="1.0" encoding="{coding}"?>' if chance.random() < 0.3 else ""
        return (head + text).encode(coding if head else "utf-8", errors="replace")

    def _maybe(self, share: float, name: str, value: str) -> str:
        return f' {name}="{value}"' if self.chance.random() < share else ""

    def _number(self) -> str:
        chance = self.chance
        if self._is_strange():
            return chance.choice(NUMBERS)
        return f"{chance.uniform(-20, 120):.{chance.randint(0, 4)}f}"

    def _is_strange(self) -> bool:
        return self.chance.random() < self.wild

    def _transform(self) -> str:
        return self.chance.choice(TRANSFORMS if self._is_strange() else TAME)

    def _length(self) -> str:
        return self._number() + self.chance.choice(UNITS)

    def _numbers(self, count: int) -> str:
        return self.chance.choice((" ", ",", " , ")).join(self._number() for _ in range(count))

    def _path(self) -> str:
        chance = self.chance
        parts = ["M" + self._numbers(2)]
        for _ in range(chance.choice((1, 3, 8, 30))):
            command = chance.choice(COMMANDS)
            count = COUNTS[command.lower()] * chance.randint(1, 2)
            flags = command in "Aa" and chance.random() < 0.8
            parts.append(command + (self._arc() if flags else self._numbers(count)))
        if chance.random() < 0.1:
            parts.insert(chance.randrange(len(parts)), chance.choice(("x", "..", "1e", "--3", ",", "#", "\t\n")))
        return "".join(parts)

    def _arc(self) -> str:
        chance = self.chance
        flags = f"{chance.randint(0, 1)}{chance.choice((' ', ',', ''))}{chance.randint(0, 1)}"
        return f"{self._number()} {self._number()} {self._number()} {flags} {self._number()} {self._number()}"

    def _style(self) -> str:
        chance = self.chance
        rows = (
            ("class", chance.choice(("a", "a b", ""))),
            ("id", f"s{chance.randint(0, 9)}"),
            ("fill", chance.choice(COLOURS)),
            ("stroke", chance.choice(COLOURS)),
            ("stroke-width", self._length()),
            ("stroke-dasharray", self._numbers(chance.randint(1, 4))),
            ("stroke-dashoffset", self._length()),
            ("stroke-linejoin", chance.choice(("miter", "round", "bevel", "arcs"))),
            ("stroke-linecap", chance.choice(("butt", "round", "square"))),
            ("stroke-miterlimit", self._number()),
            ("fill-rule", chance.choice(("evenodd", "nonzero"))),
            ("opacity", self._number()),
            ("transform", " ".join(self._transform() for _ in range(chance.randint(1, 3)))),
            ("mask", f"url(#m{chance.randint(0, 2)})"),
            ("clip-path", f"url(#c{chance.randint(0, 2)})"),
            ("marker", f"url(#k{chance.randint(0, 1)})"),
            ("vector-effect", "non-scaling-stroke"),
            ("paint-order", chance.choice(("stroke", "markers fill"))),
            ("style", f"fill:{chance.choice(COLOURS)};stroke-width:{self._length()};;x"),
            ("display", chance.choice(("none", "inline"))),
            ("filter", "url(#f)"),
        )
        return "".join(
            self._maybe(0.12 if name not in ("fill", "stroke") else 0.45, name, value) for name, value in rows
        )

    def _element(self, depth: int) -> str:
        chance = self.chance
        self.left -= 1
        if self.left > 0 and depth < MOST_DEPTH and chance.random() < 0.35:
            name = chance.choice(BOXES)
            inner = "".join(self._element(depth + 1) for _ in range(chance.randint(0, 4)))
            box = self._maybe(0.3, "viewBox", "0 0 10 10") + self._maybe(0.3, "width", self._length())
            units = self._maybe(0.3, "maskContentUnits", "objectBoundingBox")
            return f"<{name}{self._style()}{box}{units}>{inner}</{name}>"
        name = chance.choice(SHAPES)
        if name == "text":
            span = f"<tspan{self._style()}>{chance.choice(('moon', 'Ł', ''))}</tspan>"
            return f"<text{self._place()}{self._style()}>Moth {span}</text>"
        own = {
            "path": f' d="{self._path()}"',
            "polyline": f' points="{self._numbers(chance.randint(1, 21))}"',
            "polygon": f' points="{self._numbers(chance.randint(1, 21))}"',
            "use": f' {chance.choice(("href", "xlink:href"))}="#{chance.choice(("s0", "s1", "y0", "m0", "u", ""))}"',
            "image": f' href="{chance.choice(IMAGES)}"',
        }.get(name, "")
        return f"<{name}{self._place()}{own}{self._style()}/>"

    def _place(self) -> str:
        names = ("x", "y", "width", "height", "cx", "cy", "r", "rx", "ry", "x1", "y1", "x2", "y2", "font-size")
        return "".join(self._maybe(0.5, name, self._length()) for name in names)

    def _definitions(self) -> str:
        chance = self.chance
        stops = "".join(
            f'<stop offset="{self._length()}" stop-color="{chance.choice(COLOURS)}" stop-opacity="{self._number()}"/>'
            for _ in range(chance.randint(0, 3))
        )
        sheets = "".join(chance.choice(CSS) for _ in range(chance.randint(0, 3))).replace("<", "&lt;")
        parts = [
            f"<style>{sheets}</style>",
            f'<linearGradient id="g0" gradientTransform="{self._transform()}">{stops}</linearGradient>',
            f'<radialGradient id="g1" href="#g{chance.randint(0, 1)}" r="{self._length()}">{stops}</radialGradient>',
            f'<pattern id="p0" width="{self._length()}" height="9">{self._element(MOST_DEPTH)}</pattern>',
            f'<symbol id="y0" viewBox="0 0 9 9">{self._element(MOST_DEPTH - 1)}</symbol>',
        ]
        for kind, letter in (("mask", "m"), ("clipPath", "c"), ("marker", "k")):
            for number in range(2):
                self.left = max(self.left, 2)
                inner = self._element(MOST_DEPTH - 1) + self._element(MOST_DEPTH)
                parts.append(f'<{kind} id="{letter}{number}"{self._style()}>{inner}</{kind}>')
        chosen = [part for part in parts if chance.random() < 0.6]
        return f"<defs>{''.join(chosen)}</defs>"


def grown(chance: random.Random) -> bytes:
    """Return a file of the grammar."""
    return Grammar(chance).file()
