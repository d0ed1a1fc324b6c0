"""``./saucer measure [PART …]``: measures and prints; ``--write`` also into docs/benchmarks.md. Fails where a
promised limit is missed."""

import argparse
import sys
from pathlib import Path

from . import (
    bench_across,
    bench_catalogue,
    bench_core,
    bench_delivery,
    bench_hour,
    bench_looks_in,
    bench_many,
    bench_material,
    bench_motion,
    bench_screen,
)
from .amount import LITTLE
from .instance import held

PARTS = {
    "core": bench_core.run,
    "screen": bench_screen.run,
    "delivery": bench_delivery.run,
    "looks_in": bench_looks_in.run,
    "catalogue": bench_catalogue.run,
    "across": bench_across.run,
    "many": bench_many.run,
    "motion": bench_motion.run,
    "material": bench_material.run,
    "hour": bench_hour.run,
}
#: Only measured where it is asked for.
LONG = {"hour"}
PAGE = Path(__file__).parents[1] / "docs" / "benchmarks.md"


def main() -> int:
    """Runs the parts asked for, all by default; 1 where a limit is missed."""
    parser = argparse.ArgumentParser(prog="./saucer measure")
    parser.add_argument("parts", nargs="*", choices=[*PARTS, []], help="all by default, but for the hour")
    parser.add_argument("--write", action="store_true", help="put the figures into docs/benchmarks.md")
    args = parser.parse_args()
    missed: list[str] = []
    with held:
        for part in args.parts or [p for p in PARTS if p not in LONG]:
            print(f"measuring: {part}", flush=True)
            tables = PARTS[part]()
            figures = "\n".join(t.markdown() for t in tables)
            print("\n" + figures)
            missed += [f"{part}: {one}" for t in tables for one in t.missed]
            if args.write:
                _put(part, figures)
    for one in missed:
        print(f"missed: {one}", file=sys.stderr)
    return 1 if missed and not LITTLE else 0


def _put(part: str, figures: str) -> None:
    """Between that part's marks on the page."""
    first, last = f"<!-- {part} -->\n", f"<!-- end of {part} -->"
    before, _, rest = PAGE.read_text().partition(first)
    PAGE.write_text(f"{before}{first}\n{figures}\n{last}{rest.partition(last)[2]}")


if __name__ == "__main__":
    sys.exit(main())
