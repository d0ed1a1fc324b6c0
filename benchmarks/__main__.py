"""``./saucer measure [core] [screen]``: measures, prints, and writes docs/benchmarks.md's tables where asked with ``--write``."""

import argparse
import sys
from pathlib import Path

from . import bench_core, bench_screen

PARTS = {"core": bench_core.run, "screen": bench_screen.run}
PAGE = Path(__file__).parents[1] / "docs" / "benchmarks.md"
MARK = "<!-- figures -->"


def main() -> int:
    """Runs the parts asked for, all by default."""
    parser = argparse.ArgumentParser(prog="./saucer measure")
    parser.add_argument("parts", nargs="*", choices=[*PARTS, []], help="core, screen; all by default")
    parser.add_argument("--write", action="store_true", help="put the figures into docs/benchmarks.md")
    args = parser.parse_args()
    texts = []
    for part in args.parts or list(PARTS):
        print(f"measuring: {part}", flush=True)
        texts += [t.markdown() for t in PARTS[part]()]
    print("\n" + "\n".join(texts))
    if args.write:
        head, _, _ = PAGE.read_text().partition(MARK)
        PAGE.write_text(head + MARK + "\n\n" + "\n".join(texts))
    return 0


if __name__ == "__main__":
    sys.exit(main())
