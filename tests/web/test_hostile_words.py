"""What an author writes is shown as text, whatever it says: a description is Markdown, and no more than that."""

import html.parser

import pytest

from .helpers import bring

# What may follow a link, or be loaded, without harm.
SAFE = ("http:", "https:", "mailto:")
HARMLESS = {
    "p",
    "h1",
    "h2",
    "h3",
    "ul",
    "ol",
    "li",
    "a",
    "em",
    "strong",
    "code",
    "pre",
    "blockquote",
    "hr",
    "br",
    "img",
}


class Tags(html.parser.HTMLParser):
    """The tags of a text with their attributes, as a browser finds them."""

    def __init__(self) -> None:
        super().__init__()
        self.found: list[tuple[str, dict]] = []

    def handle_starttag(self, tag, attributes):
        self.found.append((tag, dict(attributes)))


@pytest.fixture(scope="module")
def demo(studio, key):
    with studio.client(key=key) as author:
        slug = bring(author, title="Words").json()["slug"]
        yield f"/api/v1/demos/{slug}"
        author.delete(f"/api/v1/demos/{slug}")


@pytest.mark.parametrize(
    "written",
    [
        "<script>alert(1)</script>",
        "Clay <img src=x onerror=alert(1)> and glaze",
        "[a pot](javascript:alert(1))",
        "[a pot](JaVaScRiPt&#58;alert(1))",
        "[a pot](  javascript:alert(1))",
        "[a pot](data:text/html;base64,PHNjcmlwdD4=)",
        "[a pot](vbscript:x)",
        "![a pot](javascript:alert(1))",
        "![a pot](data:image/svg+xml;base64,PHN2Zy8+)",
        '[a pot](https://pots.example "\\" onmouseover=\\"alert(1)")',
        '<https://pots.example/" onclick="alert(1)>',
        "```\n</code></pre><script>alert(1)</script>\n```",
        "<iframe srcdoc='<script>alert(1)</script>'></iframe>",
        "<svg><animate onbegin=alert(1) attributeName=x></svg>",
        "<style>@import 'https://pots.example/x.css'</style>",
        "<form action=https://pots.example><button>Go on</button></form>",
        "&lt;script&gt;alert(1)&lt;/script&gt;",
        "\u202e<script>\x00alert(1)</script>",
        "[" * 3000 + "a" + "](b)" * 3000,
        "> " * 2000 + "deep",
    ],
)
def test_a_description_runs_nothing_and_loads_nothing_of_its_own(author, demo, written):
    assert author.patch(demo, json={"description": written}).status_code == 200
    shown = author.get(f"{demo}/page?draft=1").json()["description_html"]
    tags = Tags()
    tags.feed(shown)
    for tag, attributes in tags.found:
        assert tag in HARMLESS, shown[:200]
        assert not [name for name in attributes if name.startswith("on") or name in ("style", "srcdoc")], shown[:200]
        for name in ("href", "src"):
            target = (attributes.get(name) or "").strip().lower()
            assert ":" not in target or target.startswith(SAFE), shown[:200]


def test_markdown_is_still_markdown(author, demo):
    author.patch(demo, json={"description": "# Clay\n\n*Dry* [pots](https://pots.example/)\n\n- one\n- two"})
    tags = Tags()
    tags.feed(author.get(f"{demo}/page?draft=1").json()["description_html"])
    assert [tag for tag, _ in tags.found] == ["h1", "p", "em", "a", "ul", "li", "li"]


@pytest.mark.parametrize("part", ["title", "purpose", "not_for", "licence"])
def test_everything_else_is_text_and_stays_as_it_was_written(author, demo, part):
    written = "<script>alert(1)</script> & *clay* \u202e"
    answer = author.patch(demo, json={part: written})
    if answer.status_code == 200:
        assert author.get(f"{demo}/page?draft=1").json()[part] == written
        page = author.get(demo.replace("/api/v1/demos", "/d") + "?draft=1")
        assert "<script>alert(1)" not in page.text
    else:
        assert answer.status_code == 422
