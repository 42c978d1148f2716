"""Tell in what two trees' answers differ: how many of how many, and the first lines of each kind."""

import difflib
import json
import sys
from collections import defaultdict
from pathlib import Path


def differences(before: Path, after: Path) -> dict[str, list[str]]:
    """Return what differs, by the part that says it: the archive, and the lines that are not the same."""
    by_part: dict[str, list[str]] = defaultdict(list)
    for file in sorted(before.glob("*.json")):
        old, new = json.loads(file.read_text()), json.loads((after / file.name).read_text())
        for part in sorted({*old, *new}):
            if old.get(part) != new.get(part):
                lines = difflib.unified_diff(
                    old.get(part, "").splitlines(), new.get(part, "").splitlines(), n=1, lineterm=""
                )
                by_part[part.split(" on ")[0]].append("\n".join([f"-- {file.stem}, {part}", *list(lines)[2:24]]))
    return by_part


if __name__ == "__main__":
    found = differences(Path(sys.argv[1]), Path(sys.argv[2]))
    count = len(list(Path(sys.argv[1]).glob("*.json")))
    sys.stdout.write(f"{count} archives; {sum(map(len, found.values()))} answers differ.\n")
    for part, texts in found.items():
        sys.stdout.write(f"\n{part}: {len(texts)}\n" + "\n".join(texts[:2]) + "\n")
    raise SystemExit(1 if found else 0)
