"""Tell in what two trees' answers differ: how many of how many, and the first lines of each kind.

What is only called something else since is no difference: a heap is a pile.
"""

import difflib
import json
import re
import sys
from collections import defaultdict
from pathlib import Path
from typing import Any

CALLED_NOW = {"heaps": "piles", "heap": "pile", "Heap": "Pile"}


def in_words_of_today(answer: str) -> str:
    """Return an answer with what is called something else since under its present name, its keys in order."""
    try:
        content = json.loads(answer)
    except ValueError:
        return _words(answer)
    return json.dumps(_renamed(content), indent=1, sort_keys=True, ensure_ascii=False)


def _renamed(content: Any) -> Any:
    match content:
        case dict():
            return {_key(key, value): _renamed(value) for key, value in content.items()}
        case list():
            return [_renamed(part) for part in content]
        case str():
            return _words(content)
    return content


def _key(key: str, value: Any) -> str:
    return key if key != "heap" else "stand" if isinstance(value, dict) else "place"


def _words(text: str) -> str:
    for before, since in CALLED_NOW.items():
        text = re.sub(rf"\b{before}\b(?!ed)", since, text)
    return text


def differences(before: Path, after: Path) -> dict[str, list[str]]:
    """Return what differs, by the part that says it: the archive, and the lines that are not the same."""
    by_part: dict[str, list[str]] = defaultdict(list)
    for file in sorted(before.glob("*.json")):
        old, new = json.loads(file.read_text()), json.loads((after / file.name).read_text())
        for part in sorted({*old, *new}):
            text_before, text_after = (in_words_of_today(answers.get(part, "")) for answers in (old, new))
            if text_before != text_after:
                lines = difflib.unified_diff(text_before.splitlines(), text_after.splitlines(), n=1, lineterm="")
                by_part[part.split(" on ")[0]].append("\n".join([f"-- {file.stem}, {part}", *list(lines)[2:24]]))
    return by_part


if __name__ == "__main__":
    different = differences(Path(sys.argv[1]), Path(sys.argv[2]))
    count = len(list(Path(sys.argv[1]).glob("*.json")))
    sys.stdout.write(f"{count} archives; {sum(map(len, different.values()))} answers differ.\n")
    for part, texts in different.items():
        sys.stdout.write(f"\n{part}: {len(texts)}\n" + "\n".join(texts[:2]) + "\n")
    raise SystemExit(1 if different else 0)
