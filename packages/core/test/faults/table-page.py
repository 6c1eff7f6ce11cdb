"""Spoils a page of tables, and re-writes it without harm, element by element (lxml's own HTML, no other library).

python3 table-page.py SEED EACH
Takes a.html in this folder; writes fault-*.html and same-*.html, and prints their names.
"""
import re

from lxml import etree, html

from outsider import Cannot, told, write
from elements import HtmlPage, around, attributed, beside, faults_of, in_head, same_of, styled, within_words


class Page(HtmlPage):
    def table(self):
        return self.body.find(".//table[@class='rows']")

    def rows(self):
        return self.table().findall("tbody/tr")


def cells(page, pattern):
    return [c for row in page.rows() for c in row if re.search(pattern, c.text_content())]


def swap_cells(page):
    row = page.pick(row for row in page.rows() if row[0].text_content() != row[1].text_content())
    row[0].addprevious(row[1])


def swap_rows(page):
    row = page.pick(page.rows()[:-1])
    row.getnext().addnext(row)


def on_row(name, value):
    return lambda page: page.pick(page.rows()).set(name, value)


def of_columns(markup):
    """Columns of a table that say something of the cells below them (HTML, 4.9.3)."""
    def act(page):
        page.table().insert(1, html.fragment_fromstring(f"<table><colgroup>{markup}</colgroup></table>").find("colgroup"))
    return act


def shown_otherwise(page):
    c = page.pick(c for row in page.rows() for c in row.findall("data"))
    c.text = c.text[:-1] + ("1" if c.text[-1] != "1" else "2")


def held_otherwise(page):
    c = page.pick(c for row in page.rows() for c in row.findall("data"))
    c.set("value", repr(float(c.get("value")) + 0.001))


def rewritten(change):
    def act(page):
        old = page.source
        new = change(old)
        assert new != old
        page.whole = new if isinstance(new, bytes) else new.encode("utf-8")
    return act


WORDS = ("td",)
FAULTS = {
    **faults_of(WORDS, "td"),
    "cells exchanged": swap_cells,
    "rows exchanged": swap_rows,
    "shown otherwise than held": shown_otherwise,
    "held otherwise than shown": held_otherwise,
    "a row hidden": on_row("hidden", ""),
    "a row collapsed": on_row("style", "visibility:collapse"),
    "a row of no height": on_row("style", "display:block;height:0;overflow:hidden"),
    "a dark row": on_row("bgcolor", "#14213a"),
    "a dark row by style": on_row("style", "background:#101820"),
    "a column collapsed": of_columns('<col><col style="visibility:collapse">'),
    "a dark column": of_columns('<col><col style="background:#14213a">'),
    "a dark cell": attributed("bgcolor", "#14213a", "td"),
    "a cell over two": attributed("rowspan", "2", "td"),
    "the table hidden": lambda page: page.table().set("hidden", ""),
    "the table from right to left": lambda page: page.table().set("dir", "rtl"),
    "a heading hidden": attributed("hidden", "", "th"),
    "a heading otherwise": within_words(lambda t: t + "s", "th"),
    "a unit otherwise": lambda page: setattr(page.pick(page.body.iter("small")), "text", "mm"),
    "headings exchanged": lambda page: (lambda row: row[3].addnext(row[2]))(page.table().find("thead/tr")),
    "a caption otherwise": within_words(lambda t: t + " of old", "caption"),
    "no caption": lambda page: page.table().remove(page.table().find("caption")),
    "a foot": lambda page: page.table().append(html.fragment_fromstring("<table><tfoot><tr><td>Total</td></tr></tfoot></table>").find("tfoot")),
    "a table in a cell": lambda page: page.pick(page.pick(page.rows())).append(html.fragment_fromstring("<table><tr><td>1</td></tr></table>")),
    "a picture in a cell": lambda page: page.pick(page.pick(page.rows())).append(page.made("img", {"src": "x.png"})),
    "words between": beside("p", "All of it is wrong.", "table"),
    "a heading between": beside("h2", "Second try", "table"),
    "a field of a form": lambda page: page.pick(page.pick(page.rows())).append(page.made("input", {"value": "12"})),
}
SAME = {
    **same_of(WORDS, "td"),
    "written as XML": rewritten(lambda t: b"<!doctype html>\n" + etree.tostring(html.document_fromstring(t), method="xml", encoding="utf-8")),
    "letters in numbers": rewritten(lambda t: t.encode("ascii", "xmlcharrefreplace")),
    "no body said": rewritten(lambda t: re.sub(r"</?body>\n?", "", t)),
    "single marks": rewritten(lambda t: re.sub(r'class="(\w+)"', r"class='\1'", t)),
    "widths of columns": of_columns('<col style="width:8em"><col span="2">'),
    "a light row": on_row("bgcolor", "#f4f8f0"),
    "a light row by style": on_row("style", "background:#f4f8f0"),
    "headers named": attributed("headers", "h1", "td"),
    "a mark of the place": lambda page: page.pick(page.rows()).set("id", "own"),
    "a division": lambda page: page.table().addprevious(page.made("div", {})),
    "bold": around("b", "td"),
    "an older title": in_head("meta", name="date", content="2026-11-30"),
    "a wide table": styled("width:100%", "caption"),
}

told(write("html", Page, FAULTS, SAME))
