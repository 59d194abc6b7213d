"""HTML pages in a headless browser, on a phone and on a desk: nothing over another, nothing beyond the edge.

The browser lays them out; a script in a page beside them asks where each run of letters came to stand.
"""

import json
import re
import shutil
import subprocess
from pathlib import Path

import pytest
from click.testing import CliRunner

from even_beam.cli import main

BROWSER = shutil.which("chromium") or shutil.which("chromium-browser")
QUIET = (
    "--headless", "--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run", "--disable-sync",
    "--disable-background-networking", "--disable-component-update", "--allow-file-access-from-files",
)  # fmt: skip

FRAME = """<!doctype html><meta charset="utf-8"><body style="margin:0">
<iframe id="page" src="page.html" style="border:0;width:{width}px;height:3000px"></iframe><pre id="found"></pre>
<script>
addEventListener("load", () => {{
  const page = document.getElementById("page").contentDocument, boxes = [];
  const walk = page.createTreeWalker(page.body, NodeFilter.SHOW_TEXT);
  while (walk.nextNode()) {{
    const words = walk.currentNode.textContent.trim(), owner = walk.currentNode.parentElement;
    if (owner.closest(".wide")) continue;  // is moved to the side by a finger
    if (!words || getComputedStyle(owner).visibility === "hidden") continue;
    const range = page.createRange();
    range.selectNodeContents(walk.currentNode);
    for (const box of range.getClientRects())
      if (box.width > 1 && box.height > 1) boxes.push([words.slice(0, 30), box.left, box.top, box.right, box.bottom]);
  }}
  const over = [];
  boxes.sort((a, b) => a[2] - b[2]);
  for (let i = 0; i < boxes.length; i++)
    for (let j = i + 1; j < boxes.length && boxes[j][2] < boxes[i][4]; j++) {{
      const [a, b] = [boxes[i], boxes[j]];
      const wide = Math.min(a[3], b[3]) - Math.max(a[1], b[1]), high = Math.min(a[4], b[4]) - b[2];
      if (wide > 2 && high > 4 && a[0] !== b[0]) over.push(a[0] + " | " + b[0]);
    }}
  const beyond = boxes.filter(box => box[3] > {width} + 1 || box[1] < -1).map(box => box[0]);
  document.getElementById("found").textContent =
    JSON.stringify({{count: boxes.length, over, beyond, wide: page.documentElement.scrollWidth}});
}});
</script>"""


@pytest.fixture(scope="module")
def pages(built_demo, tmp_path_factory):
    """Reports of the demo as HTML."""
    if BROWSER is None:
        pytest.skip("Chromium is not installed; make test installs it when root")
    folder = tmp_path_factory.mktemp("pages")
    said = {
        "lamp": ("--fixtures", "Tansy"),
        "head-to-head": ("--fixtures", "Tansy,Burdock,Yarrow", "--kind", "head-to-head"),
        "full": ("--fixtures", "Tansy", "--kind", "full"),
    }
    for name, arguments in said.items():
        (folder / name).mkdir()
        done = CliRunner().invoke(
            main, ["report", str(built_demo), *arguments, "--out", str(folder / name / "page.html")]
        )
        assert done.exit_code == 0, done.output
    return folder


def laid_out(folder: Path, width: int, profile: Path) -> dict:
    (folder / "frame.html").write_text(FRAME.format(width=width), "utf-8")
    command = [BROWSER, *QUIET, f"--user-data-dir={profile}", "--virtual-time-budget=5000", "--window-size=1400,3000"]
    done = subprocess.run(
        [*command, "--dump-dom", f"file://{folder}/frame.html"], capture_output=True, text=True, timeout=90, check=False
    )
    found = re.search(r'<pre id="found">(.*?)</pre>', done.stdout, re.DOTALL)
    assert found is not None and found[1], done.stderr[-2000:]
    return json.loads(found[1].replace("&amp;", "&").replace("&lt;", "<").replace("&gt;", ">"))


@pytest.mark.parametrize("width", [400, 1200])
@pytest.mark.parametrize("kind", ["lamp", "head-to-head", "full"])
def test_nothing_stands_over_another_and_nothing_beyond_the_edge(pages, tmp_path, kind, width):
    found = laid_out(pages / kind, width, tmp_path)
    assert found["count"] > 50
    assert found["over"] == []
    assert found["beyond"] == []
    assert found["wide"] <= width
