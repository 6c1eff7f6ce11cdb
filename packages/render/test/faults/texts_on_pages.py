"""Changes of texts on pages and in books, element by element: what shows, and what does not."""
import re

from lxml import etree, html

from elements import HtmlPage, around, attributed, beside, faults_of, in_head, rule, same_of, styled, within_words
from outsider import Cannot

WORDS = ("p", "h2", "li", "td", "figcaption", "blockquote")


class Page(HtmlPage):
    """A page of HTML with an article in it."""

    @property
    def body(self):
        return self.root.find(".//article")

    @staticmethod
    def is_content(x):
        return x.get("role") is None and not any(a.get("role") for a in x.iterancestors())


def all_of(page, *names):
    return [x for x in page.body.iter(*[page.tag(n) for n in names]) if page.is_content(x)]


def of(page, *names):
    return page.pick(all_of(page, *names))


def said(name, value, *names):
    return lambda page: of(page, *names).set(name, value)


def renamed(new, *names):
    return lambda page: setattr(of(page, *names), "tag", page.tag(new))


def taken_out(*names):
    """The element goes, and its words with it."""
    def act(page):
        x = of(page, *names)
        if x.tail and x.getprevious() is not None:
            x.getprevious().tail = (x.getprevious().tail or "") + x.tail
        elif x.tail:
            x.getparent().text = (x.getparent().text or "") + x.tail
        x.getparent().remove(x)
    return act


def exchanged(*names):
    """Two neighbours of one kind change places."""
    def act(page):
        x = page.pick(x for x in all_of(page, *names) if x.getnext() is not None and x.getnext().tag == x.tag)
        x.getnext().addnext(x)
    return act


def on_page(name, value):
    return lambda page: page.body.set(name, value)


def on_root(name, value):
    return lambda page: page.root.set(name, value)


def outside(name, words, **attributes):
    """Beside what is read as the text."""
    def act(page):
        made = page.made(name, attributes)
        made.text = words
        page.root.find(page.tag("body")).append(made)
    return act


def linked(value):
    return lambda page: page.pick(x for x in all_of(page, "a") if x.get("href")).set("href", value)


def noted(change):
    """The words of a note."""
    def act(page):
        x = page.pick(x for x in page.body.iter(page.tag("li")) if "note-" in (x.get("id") or ""))
        change(page, x)
    return act


def led(page):
    """A reference leads to no note."""
    x = page.pick(x for x in page.body.iter(page.tag("a")) if x.get("role") == "doc-noteref")
    x.set("href", "#nowhere")


MEANT = {
    "bold": "font-weight:700", "leaning": "font-style:italic", "underlined": "text-decoration:underline", "to the right": "text-align:right",
    "raised": "vertical-align:super", "as it is typed": "white-space:pre", "in a row": "display:inline", "capitals": "text-transform:uppercase",
}
FAULTS = {
    **faults_of(WORDS, "p"),
    **{f"rule {name} of words": rule(f"%s{{{value}}}", "p") for name, value in MEANT.items()},
    "rule of other numbers": rule("%s{list-style-type:lower-alpha}", "ol"),
    "another language": attributed("lang", "cy", *WORDS),
    "paragraphs exchanged": exchanged("p"),
    "items exchanged": exchanged("li"),
    "rows exchanged": exchanged("tr"),
    "cells exchanged": exchanged("td"),
    "a paragraph gone": taken_out("p"),
    "an item gone": taken_out("li"),
    "a picture gone": taken_out("figure"),
    "a line gone": taken_out("hr"),
    "a break gone": taken_out("br"),
    "a row gone": taken_out("tr"),
    "a heading lower": renamed("h4", "h2"),
    "a heading as words": renamed("p", "h2", "h3"),
    "words as a heading": renamed("h3", "p"),
    "signs for numbers": renamed("ul", "ol"),
    "numbers for signs": renamed("ol", "ul"),
    "a quotation as words": renamed("div", "blockquote"),
    "bold as leaning": renamed("em", "strong"),
    "leaning as nothing": renamed("span", "em", "strong"),
    "raised as lowered": renamed("sub", "sup"),
    "struck as nothing": renamed("span", "s"),
    "code as nothing": renamed("span", "code"),
    "a link as nothing": lambda page: (lambda x: (x.attrib.pop("href"), setattr(x, "tag", page.tag("span"))))(of(page, "a")),
    "bold": around("b", "p", "li"),
    "leaning": around("i", "p", "li"),
    "underlined": around("u", "p", "li"),
    "smaller letters above": around("sup", "p", "li"),
    "a link": around("a", "p", "li", href="https://elsewhere.example/"),
    "led elsewhere by a link": linked("https://elsewhere.example/"),
    "led within the page": linked("#here"),
    "led to a program": linked("javascript:x()"),
    "another number": said("start", "7", "ol"),
    "another number of one": lambda page: page.pick(x for x in all_of(page, "li") if x.getparent().tag == page.tag("ol")).set("value", "7"),
    "numbers backwards": said("reversed", "", "ol"),
    "letters for numbers": said("type", "a", "ol"),
    "signs of no kind": said("style", "list-style:none", "ul", "ol"),
    "other numbers": said("style", "list-style-type:upper-roman", "ol"),
    "a table over two": said("colspan", "2", "td"),
    "no head of a table": lambda page: [setattr(x, "tag", page.tag("td")) for x in page.body.iter(page.tag("th"))] or (_ for _ in ()).throw(Cannot),
    "a head in the middle": lambda page: [setattr(x, "tag", page.tag("th")) for x in page.pick(x for x in all_of(page, "tr") if x[0].tag == page.tag("td"))],
    "a caption otherwise": within_words(lambda t: t + " of old", "caption", "figcaption"),
    "words of a picture otherwise": lambda page: page.pick(x for x in all_of(page, "img") if x.get("alt")).set("alt", "A stork"),
    "a picture elsewhere": said("src", "https://elsewhere.example/x.png", "img"),
    "a picture of nothing": said("src", "", "img"),
    "a picture from a set": said("srcset", "https://elsewhere.example/x.png 2x", "img"),
    "a picture of no width": said("style", "width:0", "img"),
    "a picture of no height": said("height", "0", "img"),
    "a narrow picture": said("style", "width:12mm", "img"),
    "a picture turned": said("style", "transform:rotate(180deg)", "img"),
    "a picture filtered": said("style", "filter:invert(1)", "img"),
    "a picture cut": said("style", "object-fit:cover;height:3mm", "img"),
    "a picture hidden": said("hidden", "", "img"),
    "a picture seen through": said("style", "opacity:0", "figure"),
    "a figure from right to left": said("style", "display:none", "figure"),
    "a map on a picture": said("usemap", "#x", "img"),
    "the text hidden": on_page("hidden", ""),
    "the text seen through": on_page("style", "opacity:0"),
    "the text white": on_page("style", "color:#ffffff"),
    "the text from right to left": on_page("dir", "rtl"),
    "the page hidden": on_root("hidden", ""),
    "the page seen through": on_root("style", "opacity:.01"),
    "the page from right to left": on_root("dir", "rtl"),
    "words below": outside("p", "All of it is wrong."),
    "a division below": outside("div", "All of it is wrong."),
    "a note otherwise": noted(lambda page, x: setattr(x, "text", "Seen " + (x.text or ""))),
    "a note hidden": noted(lambda page, x: x.set("hidden", "")),
    "a note in white": noted(lambda page, x: x.set("style", "color:#fff")),
    "a note gone": noted(lambda page, x: x.getparent().remove(x)),
    "led to no note": led,
    "the number of a note otherwise": lambda page: (lambda x: setattr(x, "text", "9"))(page.pick(x for x in page.body.iter(page.tag("sup")) if x.getparent().get("role"))),
    "notes hidden": lambda page: page.pick(x for x in page.body.iter(page.tag("section"), page.tag("aside"))).set("hidden", ""),
    "notes not displayed": lambda page: page.pick(x for x in page.body.iter(page.tag("section"), page.tag("aside"))).set("style", "display:none"),
    "another title": lambda page: setattr(page.head.find(page.tag("title")), "text", "Round the moor"),
}
SAME = {
    **same_of(WORDS, "p"),
    "bold otherwise": renamed("b", "strong"),
    "leaning otherwise": renamed("i", "em"),
    "a division around": lambda page: (lambda x: (lambda made: (x.addprevious(made), made.append(x)))(page.made("div", {})))(of(page, "h2")),
    "a section around": lambda page: (lambda x: (lambda made: (x.addprevious(made), made.append(x)))(page.made("section", {})))(of(page, "ul")),
    "a place": said("id", "own", "h2", "p"),
    "when it is wanted": said("loading", "lazy", "img"),
    "an empty paragraph": beside("p", "", "p", "h2"),
    "blanks": within_words(lambda t: t.replace(" ", "\n  ", 2), "p"),
    "a remark": lambda page: of(page, "p").addprevious(etree.Comment(" seen ")),
    "an older title": in_head("meta", name="date", content="2026-11-30"),
    "a wide figure": styled("margin:2em 0", "figcaption"),
    "in a new window": lambda page: page.pick(x for x in all_of(page, "a") if x.get("href")).set("target", "_blank"),
    "no way back told": lambda page: page.pick(x for x in all_of(page, "a") if x.get("href")).set("rel", "noopener"),
    "sides of a box": on_page("style", "margin:0 2em"),
}


def rewritten(change):
    def act(page):
        new = change(page.source)
        assert new != page.source
        page.whole = new if isinstance(new, bytes) else new.encode("utf-8")
    return act


HTML_FAULTS = {
    **FAULTS,
    "another name": on_page("aria-label", "Round the moor"),
    "another article": lambda page: page.body.set("class", "own") or page.body.addprevious(page.made("article", {"class": "text"})),
    "a second article": outside("article", "More.", **{"class": "text"}),
    "cut short": rewritten(lambda t: t[: len(t) * 2 // 3]),
    "read as other letters": rewritten(lambda t: t.encode("utf-8").decode("latin-1")),
}
HTML_SAME = {
    **SAME,
    "written as XML": rewritten(lambda t: b"<!doctype html>\n" + etree.tostring(html.document_fromstring(t), method="xml", encoding="utf-8")),
    "letters in numbers": rewritten(lambda t: t.encode("ascii", "xmlcharrefreplace")),
    "returns": rewritten(lambda t: t.replace("\n", "\r\n")),
    "single marks": rewritten(lambda t: re.sub(r'class="(\w+)"', r"class='\1'", t)),
    "no ends": rewritten(lambda t: re.sub(r"</(li|p|td|tr)>", "", t)),
    "a main part": lambda page: (lambda made: (page.body.addprevious(made), made.append(page.body)))(page.made("main", {})),
}
