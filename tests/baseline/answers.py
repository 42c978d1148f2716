"""Ask a running tree for all that it says of some archives, and write it down in a form that can be compared.

Only the command line and the API are used, so that it asks an older tree and a newer one alike. Whatever differs from
one run to the next, ids and times of writing, is replaced.
"""

import io
import json
import re
import sys
import time
from collections.abc import Iterator
from datetime import date, timedelta
from pathlib import Path
from uuid import UUID, uuid4, uuid5

import httpx2
from pypdf import PdfReader
from typer.testing import CliRunner

DAYS_AHEAD = (0, 95, 210, 330)
NAMES = UUID("6a0f6d0e-53f6-4b0b-9d58-5a2f6c1d7b11")
ID = re.compile(r"[0-9a-f]{8}(?:-[0-9a-f]{4}){3}-[0-9a-f]{12}")
MOMENT = re.compile(
    r"\d{4}-\d\d-\d\dT\d\d:\d\d:\d\d(?:\.\d+)?(?:Z|[+-]\d\d:\d\d)|\d{8}T\d{6}Z?|\"request_id\": \"\w+\""
)
ENDINGS = {"log.": ("csv", "xlsx"), "file.": ("json", "csv", "xlsx")}
MOST_PLOTS = 3
PASSED = ("photo_id", "quote_id", "entry_id", "token")


def without_turns(text: str) -> str:
    """Return a text with its ids and moments replaced by their turn."""
    turns: dict[str, str] = {}
    return ID.sub(lambda key: turns.setdefault(key[0], f"id-{len(turns)}"), MOMENT.sub("moment", text))


def plans(archive: Path, today: date) -> Iterator[tuple[str, str]]:
    """Yield what the command line plans on some days."""
    from ulmatic.cli import cli

    for ahead in DAYS_AHEAD:
        day = (today + timedelta(days=ahead)).isoformat()
        answer = CliRunner().invoke(cli, ["plan", str(archive), "--on", day, "--years", "3", "--json"])
        yield f"plan on {day}", answer.stdout + (repr(answer.exception) if answer.exception else "")


def text_of(answer: httpx2.Response) -> str:
    """Return what an answer says, whatever its form."""
    form = answer.headers.get("content-type", "")
    if "pdf" in form:
        return "\n".join(page.extract_text() for page in PdfReader(io.BytesIO(answer.content)).pages)
    if "spreadsheet" in form:
        from openpyxl import load_workbook

        book = load_workbook(io.BytesIO(answer.content))
        return "\n".join(repr([cell.value for cell in row]) for sheet in book for row in sheet.iter_rows())
    if "calendar" in form:
        return answer.text.replace("\r\n ", "")
    if "json" in form:
        return json.dumps(answer.json(), indent=1, sort_keys=True, ensure_ascii=False)
    return f"{answer.status_code} {answer.text}" if answer.status_code != 200 else answer.text


class Visitor:
    """Somebody with an account at a running server."""

    def __init__(self, address: str, today: date, *, demo: bool = False) -> None:
        self.client = httpx2.Client(base_url=address, headers={"Origin": address}, timeout=120)
        self.today = today
        account = {"name": "Robin", "email": f"{uuid4().hex}@example.org", "password": "four ordinary words here"}
        answer = (
            self.client.post("/api/v1/session/demo") if demo else self.client.post("/api/v1/accounts", json=account)
        )
        self.workspace_id = answer.raise_for_status().json()["workspaces"][0]["id"]
        paths = self.client.get("/api/v1/openapi.json").json()["paths"]
        self.routes = sorted(path for path, methods in paths.items() if "get" in methods and "{site_id}" in path)

    def restore(self, archive: Path) -> str:
        """Make a site of an archive; return its id."""
        answer = self.client.post(
            f"/api/v1/workspaces/{self.workspace_id}/archives",
            params={"site_id": (site_id := str(uuid5(NAMES, archive.stem)))},
            content=archive.read_bytes(),
            headers={"Content-Type": "application/octet-stream"},
        )
        answer.raise_for_status()
        deadline = time.monotonic() + 120
        while True:
            errand = self.client.get(f"/api/v1/workspaces/{self.workspace_id}/errands/{answer.json()['id']}").json()
            if errand["state"] == "refused" or time.monotonic() > deadline:
                raise SystemExit(f"{archive.name}: {errand}")
            if errand["state"] == "done":
                return site_id
            time.sleep(0.05)

    def answers(self, site_id: str) -> Iterator[tuple[str, str]]:
        """Yield what every route of a site says."""
        site = f"/api/v1/workspaces/{self.workspace_id}/sites/{site_id}"
        plots = [plot["id"] for plot in self.client.get(site).json()["plots"]][:MOST_PLOTS]
        answers_by_path = {
            "crop": "bush_bean",
            "supply_m3": "8",
            "n_percent": "8",
            "on": self.today.isoformat(),
            "first": self.today.isoformat(),
            "last": (self.today + timedelta(days=60)).isoformat(),
        }
        quote = {"id": str(uuid4()), "client": "Robin"}
        quoted = self.client.post(f"{site}/quotes", json=quote)
        yield "quote kept", text_of(quoted)
        if quoted.status_code == 201:
            yield "quote printed", text_of(self.client.get(f"{site}/quotes/{quote['id']}/file.pdf"))
        for route in self.routes:
            if any(f"{{{name}}}" in route for name in PASSED):
                continue
            address = route.replace("{workspace_id}", self.workspace_id).replace("{site_id}", site_id)
            endings = next((endings for part, endings in ENDINGS.items() if f"{part}{{" in route), ("",))
            for number, plot in enumerate(plots if "{plot_id}" in route else [""]):
                for ending in endings:
                    answer = self.client.get(
                        address.replace("{plot_id}", plot).replace("{ending}", ending), params=answers_by_path
                    )
                    yield f"{route} {number} {ending}", text_of(answer)


def write_answers(archives: Path, answers: Path, address: str, today: date) -> None:
    """Write one file an archive with all that is said of it."""
    for archive in sorted(archives.glob("*.json")):
        visitor = Visitor(address, today)
        parts = dict(plans(archive, today))
        parts |= dict(visitor.answers(visitor.restore(archive)))
        parts = {name: without_turns(text) for name, text in parts.items()}
        (answers / archive.name).write_text(json.dumps(parts, indent=1, ensure_ascii=False))


def keep_demo(archives: Path, address: str, today: date) -> None:
    """Keep the demo's sites as archives, to be asked for like the others."""
    visitor = Visitor(address, today, demo=True)
    sites = f"/api/v1/workspaces/{visitor.workspace_id}/sites"
    for site in visitor.client.get(sites).json():
        content = visitor.client.get(f"{sites}/{site['site']['id']}/file.json").content
        (archives / f"demo-{site['site']['name'].replace(' ', '-')}.json").write_bytes(content)


if __name__ == "__main__":
    archives, answers, address, day = Path(sys.argv[1]), Path(sys.argv[2]), sys.argv[3], date.fromisoformat(sys.argv[4])
    if not list(archives.glob("demo-*.json")):
        keep_demo(archives, address, day)
    write_answers(archives, answers, address, day)
