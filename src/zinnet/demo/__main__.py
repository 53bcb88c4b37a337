"""Nests the demos anew and writes ``data/demo/layouts.json``."""

import json

from zinnet.bench.document import Document
from zinnet.bench.nesting import nest_document
from zinnet.data import path_of
from zinnet.demo import SHIPPED, demo_document

SECONDS = 20.0


def main() -> None:
    """Give each film of each demo its seconds, and write all nests."""
    layouts: dict[str, dict[str, object]] = {}
    for name in SHIPPED:
        opened = demo_document(name=name)
        document = Document(opened.workshop, opened.job)
        nest_document(document, seconds=SECONDS)
        layouts |= {key: layout.model_dump() for key, layout in document.plan.layouts.items()}
    path_of("demo", "layouts.json").write_text(json.dumps(layouts, indent=1) + "\n", encoding="utf-8")


if __name__ == "__main__":
    main()
