"""Spoils a workbook, and re-writes it without harm, in the XML of its parts (lxml and zip alone; no library of workbooks).

python3 workbook.py SEED EACH
Takes a.xlsx in this folder; writes fault-*.xlsx and same-*.xlsx, and prints their names.
"""
import copy
import re
import zipfile

from lxml import etree

from outsider import SEED, Cannot, Package, told, write

M = "http://schemas.openxmlformats.org/spreadsheetml/2006/main"
R = "http://schemas.openxmlformats.org/officeDocument/2006/relationships"
P = "http://schemas.openxmlformats.org/package/2006/relationships"
T = "http://schemas.openxmlformats.org/package/2006/content-types"
WORD = re.compile(r"[A-Za-z]{3}")


def m(tag):
    return f"{{{M}}}{tag}"


class Book(Package):
    def __init__(self, rnd):
        super().__init__("a.xlsx", rnd)

    @property
    def workbook(self):
        return self.xml("xl/workbook.xml")

    @property
    def styles(self):
        return self.xml("xl/styles.xml")

    @property
    def strings(self):
        return self.xml("xl/sharedStrings.xml")

    @property
    def sheet(self):
        return self.xml("xl/worksheets/sheet1.xml")

    def rows(self):
        """Rows of the first sheet below its headings."""
        return self.sheet.find(m("sheetData")).findall(m("row"))[1:]

    def cells(self, wanted):
        return [c for row in self.rows() for c in row if wanted(c)]

    def cell(self, wanted):
        found = self.cells(wanted)
        if not found:
            raise Cannot
        return self.rnd.choice(found)

    def words(self, c):
        return "".join(self.strings[int(c.find(m("v")).text)].itertext())

    def look(self, c, **more):
        """Gives a cell a look of its own; @returns its xf."""
        all_of = self.styles.find(m("cellXfs"))
        xf = copy.deepcopy(all_of[int(c.get("s") or 0)])
        for name, value in more.items():
            xf.set(name, str(value))
        all_of.append(xf)
        c.set("s", str(len(all_of) - 1))
        return xf

    def font(self, inner):
        fonts = self.styles.find(m("fonts"))
        fonts.append(etree.fromstring(f'<font xmlns="{M}">{inner}</font>'))
        return len(fonts) - 1

    def fill(self, inner):
        fills = self.styles.find(m("fills"))
        fills.append(etree.fromstring(f'<fill xmlns="{M}">{inner}</fill>'))
        return len(fills) - 1

    def format(self, code):
        formats = self.styles.find(m("numFmts"))
        number = 200 + len(formats)
        etree.SubElement(formats, m("numFmt"), numFmtId=str(number), formatCode=code)
        return number

    def before(self, tags, element):
        """Puts something into the sheet where the order of its parts wants it: before the first of these."""
        for tag in tags:
            there = self.sheet.find(m(tag))
            if there is not None:
                return there.addprevious(element)
        self.sheet.append(element)

    def after(self, markup):
        self.sheet.find(m("sheetData")).addnext(etree.fromstring(markup))

    def add(self, part, data, kind, of, type_):
        """Adds a part, with a relation to it. @returns the relation's id"""
        self.parts[part] = data
        types = self.xml("[Content_Types].xml")
        etree.SubElement(types, f"{{{T}}}Override", PartName="/" + part, ContentType=kind)
        folder, name = of.rsplit("/", 1)
        rels = f"{folder}/_rels/{name}.rels"
        if rels not in self.parts:
            self.parts[rels] = f'<Relationships xmlns="{P}"/>'.encode()
        root = self.xml(rels)
        etree.SubElement(root, f"{{{P}}}Relationship", Id="rIdX", Type=type_, Target="/" + part)
        return "rIdX"


def kind(c):
    return c.get("t") or "n"


def is_number(c):
    return kind(c) == "n" and c.find(m("f")) is None and c.find(m("v")) is not None


def is_word(c):
    return kind(c) == "s"


def is_date(book):
    codes = {one.get("numFmtId") for one in book.styles.iter(m("numFmt")) if "yy" in one.get("formatCode")}
    looks = {str(i) for i, xf in enumerate(book.styles.find(m("cellXfs"))) if xf.get("numFmtId") in codes}
    return lambda c: is_number(c) and c.get("s") in looks


def is_measured(book):
    date = is_date(book)
    return lambda c: is_number(c) and not date(c)


def has_formula(c):
    return c.find(m("f")) is not None


# ------------------------------------------------------------------------------------------------------------------ faults
FAULTS, SAME = {}, {}


def fault(name):
    return lambda do: FAULTS.setdefault(name, do)


def same(name):
    return lambda do: SAME.setdefault(name, do)


def on(wanted, change):
    def go(book):
        change(book, book.cell(wanted(book)))
    return go


def value(change):
    def go(book, c):
        v = c.find(m("v"))
        if v is None:
            raise Cannot
        v.text = change(v.text)
    return go


def plain(test):
    return lambda book: test


FAULTS.update({
    "a hundredth more": on(is_measured, value(lambda v: repr(float(v) + 0.01))),
    "tenfold": on(is_measured, value(lambda v: repr(float(v) * 10))),
    "below nothing": on(is_measured, value(lambda v: repr(-float(v) - 1))),
    "a day later": on(is_date, value(lambda v: str(int(float(v)) + 1))),
    "at noon": on(is_date, value(lambda v: str(float(v) + 0.5))),
    "no value": on(is_measured, lambda book, c: c.remove(c.find(m("v")))),
    "no cell": on(is_measured, lambda book, c: c.getparent().remove(c)),
    "number as words": on(is_measured, lambda book, c: c.set("t", "str")),
    "date as a number": on(is_date, lambda book, c: c.attrib.pop("s")),
    "number as a date": on(is_measured, lambda book, c: book.look(c, numFmtId=14)),
    "yes for no": on(plain(lambda c: kind(c) == "b"), value(lambda v: "0" if v == "1" else "1")),
    "yes as a number": on(plain(lambda c: kind(c) == "b"), lambda book, c: c.attrib.pop("t")),
    "an error": on(is_measured, lambda book, c: (c.set("t", "e"), value(lambda v: "#N/A")(book, c))),
    "percent": on(is_measured, lambda book, c: book.look(c, numFmtId=10)),
    "thousands": on(is_measured, lambda book, c: book.look(c, numFmtId=book.format("0.0,"))),
    "shows nothing": on(is_measured, lambda book, c: book.look(c, numFmtId=book.format(";;;"))),
    "shows words": on(is_measured, lambda book, c: book.look(c, numFmtId=book.format('"12.5"'))),
    "shows words around": on(is_measured, lambda book, c: book.look(c, numFmtId=book.format('"1"0.0'))),
    "shows white": on(is_measured, lambda book, c: book.look(c, numFmtId=book.format("[White]0.0"))),
    "shows a fraction": on(is_measured, lambda book, c: book.look(c, numFmtId=12)),
    "shows a power": on(is_measured, lambda book, c: book.look(c, numFmtId=book.format('0.0"E2"'))),
    "white letters": on(plain(is_word), lambda book, c: book.look(c, fontId=book.font('<sz val="11"/><color rgb="FFFFFFFF"/>'))),
    "letters of the sheet's colour": on(plain(is_word), lambda book, c: book.look(c, fontId=book.font('<sz val="11"/><color theme="0"/>'))),
    "letters by a white number": on(plain(is_word), lambda book, c: book.look(c, fontId=book.font('<sz val="11"/><color indexed="9"/>'))),
    "struck": on(plain(is_word), lambda book, c: book.look(c, fontId=book.font('<strike/><sz val="11"/>'))),
    "of size one": on(plain(is_word), lambda book, c: book.look(c, fontId=book.font('<sz val="1"/>'))),
    "black ground": on(plain(is_word), lambda book, c: book.look(c, fillId=book.fill('<patternFill patternType="solid"><fgColor rgb="FF000000"/></patternFill>'))),
    "filled up": on(plain(is_word), lambda book, c: etree.SubElement(book.look(c), m("alignment"), horizontal="fill")),
    "formula gone": on(plain(has_formula), lambda book, c: c.remove(c.find(m("f")))),
    "formula and value gone": on(plain(has_formula), lambda book, c: [c.remove(x) for x in list(c)]),
    "value of a formula": on(plain(has_formula), value(lambda v: repr(float(v) + 1))),
})


@fault("another word")
def another_word(book):
    c = book.cell(is_word)
    others = [i for i, si in enumerate(book.strings) if "".join(si.itertext()) != book.words(c)]
    c.find(m("v")).text = str(book.rnd.choice(others))


def in_strings(change):
    def go(book):
        used = {int(c.find(m("v")).text) for c in book.cells(is_word)}
        found = [t for i, si in enumerate(book.strings) if i in used for t in si.iter(m("t")) if t.text and WORD.search(t.text)]
        if not found:
            raise Cannot
        one = book.rnd.choice(found)
        one.text = change(one.text)
    return go


FAULTS.update({
    "a letter": in_strings(lambda t: WORD.sub("Xyz", t, count=1)),
    "capitals": in_strings(lambda t: t.swapcase()),
    "a blank more": in_strings(lambda t: WORD.sub(lambda x: x.group()[:1] + " " + x.group()[1:], t, count=1)),
    "a letter by its code": in_strings(lambda t: t + "_x0041_"),
    "a letter like it": in_strings(lambda t: t.replace("o", "\u043e").replace("e", "\u0435").replace("a", "\u0430")),
    "unseen letter": in_strings(lambda t: t[:1] + "\u200b" + t[1:]),
})


def runs(inner):
    def go(book):
        c = book.cell(is_word)
        words = book.words(c)
        for x in list(c):
            c.remove(x)
        c.set("t", "inlineStr")
        made = etree.SubElement(c, m("is"))
        r = etree.SubElement(made, m("r"))
        r.append(etree.fromstring(f'<rPr xmlns="{M}">{inner}</rPr>'))
        etree.SubElement(r, m("t")).text = words
    return go


FAULTS.update({"a stretch struck": runs("<strike/>"), "a stretch white": runs('<color rgb="FFFFFFFF"/>'), "a stretch of size one": runs('<sz val="1"/>')})


@fault("cells exchanged")
def exchanged(book):
    row = book.rnd.choice([r for r in book.rows() if len([c for c in r if is_measured(book)(c)]) > 1])
    a, b = [c for c in row if is_measured(book)(c)][:2]
    va, vb = a.find(m("v")), b.find(m("v"))
    if va.text == vb.text:
        va.text = repr(float(va.text) + 3)
    va.text, vb.text = vb.text, va.text


def row_set(**more):
    def go(book):
        for name, v in more.items():
            book.rnd.seed(f"{SEED} {sorted(more)}")
            book.rnd.choice(book.rows()).set(name, v)
    return go


@fault("row gone")
def row_gone(book):
    one = book.rnd.choice(book.rows())
    one.getparent().remove(one)


@fault("row twice")
def row_twice(book):
    one = copy.deepcopy(book.rnd.choice(book.rows()))
    last = book.rows()[-1]
    number = int(last.get("r")) + 1
    one.set("r", str(number))
    for c in one:
        c.set("r", re.sub(r"\d+", str(number), c.get("r")))
    last.addnext(one)


FAULTS.update({
    "row hidden": row_set(hidden="1"),
    "row of no height": row_set(ht="0", customHeight="1"),
})


def column(**more):
    def go(book):
        cols = book.sheet.find(m("cols"))
        one = book.rnd.choice(list(cols))
        for name, v in more.items():
            one.set(name, v)
    return go


FAULTS.update({
    "column hidden": column(hidden="1"),
    "column of no width": column(width="0"),
    "column of hardly any width": column(width="0.2"),
})


def view(**more):
    def go(book):
        one = book.sheet.find(f"{m('sheetViews')}/{m('sheetView')}")
        for name, v in more.items():
            one.set(name, v)
    return go


FAULTS.update({
    "formulas shown": view(showFormulas="1"),
    "zeros not shown": view(showZeros="0"),
    "right to left": view(rightToLeft="1"),
    "first rows out of reach": view(topLeftCell="A9"),
    "rows of no height": lambda book: book.sheet.find(m("sheetFormatPr")).set("zeroHeight", "1"),
    "columns of no width": lambda book: (book.sheet.find(m("sheetFormatPr")).set("defaultColWidth", "0"), [book.sheet.remove(x) for x in book.sheet.findall(m("cols"))]),
})


def sheets(book):
    return book.workbook.find(m("sheets"))


FAULTS.update({
    "sheet hidden": lambda book: sheets(book)[0].set("state", "hidden"),
    "sheet very hidden": lambda book: sheets(book)[-1].set("state", "veryHidden"),
    "sheet renamed": lambda book: sheets(book)[0].set("name", "Others"),
    "summary renamed": lambda book: sheets(book)[1].set("name", "Others"),
    "sheet gone": lambda book: sheets(book).remove(sheets(book)[0]),
    "days from 1904": lambda book: sheets(book).addprevious(etree.Element(m("workbookPr"), date1904="1")),
    "computed by hand": lambda book: sheets(book).addnext(etree.Element(m("calcPr"), calcMode="manual")),
    "as shown": lambda book: sheets(book).addnext(etree.Element(m("calcPr"), fullPrecision="0")),
    "window hidden": lambda book: sheets(book).addprevious(etree.fromstring(f'<bookViews xmlns="{M}"><workbookView visibility="hidden"/></bookViews>')),
    "cells merged": lambda book: book.after(f'<mergeCells xmlns="{M}" count="1"><mergeCell ref="A3:B4"/></mergeCells>'),
    "a link": lambda book: book.after(f'<hyperlinks xmlns="{M}"><hyperlink ref="A3" location="B9"/></hyperlinks>'),
    "a heading in another cell": lambda book: book.sheet.find(f"{m('sheetData')}/{m('row')}")[0].find(m("v")).__setattr__("text", book.sheet.find(f"{m('sheetData')}/{m('row')}")[1].find(m("v")).text),
})


def formula(change):
    def go(book):
        c = book.cell(has_formula)
        f = c.find(m("f"))
        changed = change(f.text)
        if changed == f.text:
            raise Cannot
        f.text = changed
    return go


FAULTS.update({
    "another number in a formula": formula(lambda f: re.sub(r"100", "101", f, count=1)),
    "another sign in a formula": formula(lambda f: f.replace("*", "+", 1)),
    "the row below in a formula": formula(lambda f: re.sub(r"([A-Z])(\d+)", lambda x: f"{x.group(1)}{int(x.group(2)) + 1}", f, count=1)),
    "the same in a formula": formula(lambda f: f"({f})+0.001"),
    "a formula for many": lambda book: (lambda c: (c.find(m("f")).set("t", "array"), c.find(m("f")).set("ref", c.get("r") + ":Z9")))(book.cell(has_formula)),
})


def summary(change):
    def go(book):
        tree = book.xml("xl/worksheets/sheet2.xml")
        found = list(tree.iter(m("f")))
        if not found:
            raise Cannot
        one = book.rnd.choice(found)
        one.text = change(one.text)
    return go


FAULTS.update({
    "another summary": summary(lambda f: re.sub(r"^[A-Z]+", lambda x: "MIN" if x.group() != "MIN" else "MAX", f)),
    "summary of fewer rows": summary(lambda f: re.sub(r":([A-Z]+)(\d+)", lambda x: f":{x.group(1)}{int(x.group(2)) - 2}", f)),
    "summary of another column": summary(lambda f: re.sub(r"([A-Z])(\d+):[A-Z]", lambda x: f"B{x.group(2)}:B", f)),
})


def condition(dxf, more=""):
    def go(book):
        styles = book.styles
        made = styles.find(m("dxfs"))
        if made is None:
            made = etree.Element(m("dxfs"))
            styles.find(m("cellStyles")).addnext(made)
        made.append(etree.fromstring(f'<dxf xmlns="{M}">{dxf}</dxf>'))
        book.after(f'<conditionalFormatting xmlns="{M}" sqref="A2:J9"><cfRule type="expression" priority="1" dxfId="{len(made) - 1}"{more}><formula>TRUE</formula></cfRule></conditionalFormatting>')
    return go


X14 = "http://schemas.microsoft.com/office/spreadsheetml/2009/9/main"  # term-guard: standard (ECMA-376-1, 18.2.10; a namespace of extensions)
FAULTS.update({
    "white on a condition": condition('<font><color rgb="FFFFFFFF"/></font>'),
    "nothing shown on a condition": condition('<numFmt numFmtId="300" formatCode=";;;"/>'),
    "icons for numbers": lambda book: book.after(f'<conditionalFormatting xmlns="{M}" sqref="D2:D9"><cfRule type="iconSet" priority="1"><iconSet showValue="0"><cfvo type="percent" val="0"/><cfvo type="percent" val="33"/><cfvo type="percent" val="67"/></iconSet></cfRule></conditionalFormatting>'),
    "a condition of a newer kind": lambda book: book.sheet.append(etree.fromstring(f'<extLst xmlns="{M}"><ext uri="{{78C0D931-6437-407d-A8EE-F0AAD7539E65}}" xmlns:x14="{X14}"><x14:conditionalFormattings><x14:conditionalFormatting><x14:cfRule type="expression" priority="3" id="{{1}}"><x14:dxf><font><color theme="0"/></font></x14:dxf></x14:cfRule></x14:conditionalFormatting></x14:conditionalFormattings></ext></extLst>')),
    "small pictures in cells": lambda book: book.sheet.append(etree.fromstring(f'<extLst xmlns="{M}"><ext uri="{{05C60535-1F16-4fd2-B633-F4F36F0B64E0}}" xmlns:x14="{X14}"><x14:sparklineGroups><x14:sparklineGroup><x14:sparklines><x14:sparkline/></x14:sparklines></x14:sparklineGroup></x14:sparklineGroups></ext></extLst>')),
})


def drawn(book):
    book.add("xl/drawings/drawing9.xml", b'<xdr:wsDr xmlns:xdr="http://schemas.openxmlformats.org/drawingml/2006/spreadsheetDrawing"/>',
             "application/vnd.openxmlformats-officedocument.drawing+xml", "xl/worksheets/sheet1.xml", R + "/drawing")
    book.sheet.append(etree.fromstring(f'<drawing xmlns="{M}" xmlns:r="{R}" r:id="rIdX"/>'))


FAULTS.update({
    "a drawing over it": drawn,
    "a picture behind it": lambda book: book.sheet.append(etree.fromstring(f'<picture xmlns="{M}" xmlns:r="{R}" r:id="rIdX"/>')),
    "a program in it": lambda book: book.add("xl/vbaProject.bin", b"\xd0\xcf\x11\xe0", "application/vnd.ms-office.vbaProject", "xl/workbook.xml", "http://schemas.microsoft.com/office/2006/relationships/vbaProject"),  # term-guard: standard (ECMA-376-1, 18.2.10; a namespace of extensions)
    "cut short": lambda book: book.parts.__setitem__("xl/worksheets/sheet2.xml", book.parts["xl/worksheets/sheet2.xml"][:-40]),
    "no strings": lambda book: book.parts.pop("xl/sharedStrings.xml"),
})


# ------------------------------------------------------------------------------------------------------------ without harm
@same("strings within cells")
def inline(book):
    for c in book.cells(is_word):
        words = book.words(c)
        for x in list(c):
            c.remove(x)
        c.set("t", "inlineStr")
        t = etree.SubElement(etree.SubElement(c, m("is")), m("t"))
        t.text = words
        t.set("{http://www.w3.org/XML/1998/namespace}space", "preserve")


@same("words as they stand")
def as_words(book):
    for c in book.cells(is_word)[::2]:
        words = book.words(c)
        c.set("t", "str")
        c.find(m("v")).text = words


@same("strings in another order")
def shuffled(book):
    strings = book.strings
    order = list(range(len(strings)))
    book.rnd.shuffle(order)
    old = list(strings)
    for one in old:
        strings.remove(one)
    for i in order:
        strings.append(old[i])
    place = {was: now for now, was in enumerate(order)}
    for part in [p for p in book.parts if p.startswith("xl/worksheets/sheet")]:
        for c in book.xml(part).iter(m("c")):
            if kind(c) == "s":
                c.find(m("v")).text = str(place[int(c.find(m("v")).text)])


@same("strings in stretches")
def stretches(book):
    for si in list(book.strings)[::3]:
        t = si.find(m("t"))
        if t is None or not t.text or len(t.text) < 4:
            continue
        words = t.text
        si.remove(t)
        for piece, bold in ((words[:2], True), (words[2:], False)):
            r = etree.SubElement(si, m("r"))
            r.append(etree.fromstring(f'<rPr xmlns="{M}">{"<b/>" if bold else ""}<sz val="11"/><rFont val="Arial"/></rPr>'))
            one = etree.SubElement(r, m("t"))
            one.text = piece
            one.set("{http://www.w3.org/XML/1998/namespace}space", "preserve")


@same("letters by their codes")
def coded(book):
    for t in list(book.strings.iter(m("t")))[::4]:
        if t.text:
            t.text = f"_x{ord(t.text[0]):04X}_" + t.text[1:]


@same("without places")
def placeless(book):
    for row in book.sheet.find(m("sheetData")):
        numbers = [c.get("r") for c in row]
        if [re.sub(r"\d", "", n) for n in numbers] == [chr(65 + i) for i in range(len(numbers))]:
            for c in row:
                del c.attrib["r"]


@same("with a prefix")
def prefixed(book):
    for part in [p for p in book.parts if p.startswith("xl/worksheets/sheet")]:
        text = etree.tostring(book.xml(part)).decode()
        text = re.sub(r"<(/?)([a-zA-Z])", r"<\1x:\2", text).replace(f'xmlns="{M}"', f'xmlns:x="{M}"')
        del book.trees[part]
        book.parts[part] = text.encode()


@same("looks in another order")
def looks(book):
    all_of = book.styles.find(m("cellXfs"))
    first, *rest = list(all_of)
    for one in rest:
        all_of.remove(one)
    for one in reversed(rest):
        all_of.append(one)
    place = {0: 0, **{i + 1: len(rest) - i for i in range(len(rest))}}
    for part in [p for p in book.parts if p.startswith("xl/worksheets/sheet")]:
        for c in book.xml(part).iter(m("c")):
            if c.get("s"):
                c.set("s", str(place[int(c.get("s"))]))


@same("one formula for many")
def shared(book):
    by_column = {}
    for c in book.cells(has_formula):
        by_column.setdefault(re.sub(r"\d", "", c.get("r")), []).append(c)
    for number, cells in enumerate(by_column.values()):
        first = cells[0].find(m("f"))
        first.set("t", "shared")
        first.set("si", str(number))
        first.set("ref", f"{cells[0].get('r')}:{cells[-1].get('r')}")
        for c in cells[1:]:
            f = c.find(m("f"))
            f.text = None
            f.set("t", "shared")
            f.set("si", str(number))


@same("parts called otherwise")
def renamed(book):
    rels = book.xml("xl/_rels/workbook.xml.rels")
    for one in rels:
        if one.get("Target") == "worksheets/sheet1.xml":
            one.set("Target", "/xl/worksheets/first.xml")
    for one in book.xml("[Content_Types].xml"):
        if one.get("PartName") == "/xl/worksheets/sheet1.xml":
            one.set("PartName", "/xl/worksheets/first.xml")
    book.parts["xl/worksheets/first.xml"] = book.parts.pop("xl/worksheets/sheet1.xml")


def attributes(wanted, **more):
    def go(book):
        for one in wanted(book):
            for name, v in more.items():
                one.set(name, v)
    return go


def put_before(markup):
    return lambda book: sheets(book).addprevious(etree.fromstring(markup))


def noise(book):
    for c in book.cells(is_measured(book)):
        v = c.find(m("v"))
        v.text = "%.17g" % float(v.text)


def powers(book):
    for c in book.cells(is_measured(book))[::2]:
        v = c.find(m("v"))
        v.text = ("%.14E" % float(v.text)).replace("E+0", "E")


def ac(book):
    AC = "http://schemas.microsoft.com/office/spreadsheetml/2009/9/ac"  # term-guard: standard (ECMA-376-1, 18.2.10; a namespace of extensions)
    text = etree.tostring(book.sheet).decode().replace("<worksheet ", f'<worksheet xmlns:mc="http://schemas.openxmlformats.org/markup-compatibility/2006" mc:Ignorable="x14ac" xmlns:x14ac="{AC}" ', 1)
    book.trees["xl/worksheets/sheet1.xml"] = etree.fromstring(re.sub(r"<row ", '<row x14ac:dyDescent="0.25" ', text))


def empties(book):
    for row in book.rows()[:5]:
        number = row.get("r")
        etree.SubElement(row, m("c"), r=f"Q{number}", s="1")
    data = book.sheet.find(m("sheetData"))
    etree.SubElement(data, m("row"), r=str(int(data[-1].get("r")) + 5), ht="20")


def all_rows(book):
    return book.rows()


SAME.update({
    "saved again": lambda book: book.xml("xl/worksheets/sheet1.xml"),
    "not packed": lambda book: setattr(book, "how", zipfile.ZIP_STORED),
    "in another order": lambda book: setattr(book, "order", sorted(book.parts, reverse=True)),
    "seventeen digits": noise,
    "powers of ten": powers,
    "true for one": lambda book: [value(lambda v: "true" if v == "1" else "false")(book, c) for c in book.cells(lambda c: kind(c) == "b")],
    "kinds said": lambda book: [c.set("t", "n") for c in book.cells(is_number)],
    "no looks said": lambda book: [c.set("s", "0") for c in book.cells(lambda c: c.get("s") is None)],
    "spans of rows": attributes(all_rows, spans="1:10"),
    "high rows": attributes(all_rows, ht="30", customHeight="1"),
    "attributes of a newer kind": ac,
    "cells with nothing in them": empties,
    "no dimension": lambda book: book.sheet.remove(book.sheet.find(m("dimension"))),
    "no widths": lambda book: [book.sheet.remove(x) for x in book.sheet.findall(m("cols"))],
    "columns in a group": column(outlineLevel="1"),
    "wide columns": column(width="60", bestFit="1"),
    "zoomed": view(zoomScale="140", showGridLines="0"),
    "seen in pages": view(view="pageLayout"),
    "selected": lambda book: book.sheet.find(f"{m('sheetViews')}/{m('sheetView')}").append(etree.Element(m("selection"), activeCell="B4", sqref="B4")),
    "coloured": on(plain(is_word), lambda book, c: book.look(c, fillId=book.fill('<patternFill patternType="solid"><fgColor rgb="FFE8F0D8"/></patternFill>'), fontId=book.font('<b/><sz val="12"/><color rgb="FF203A20"/>'))),
    "greyed": on(plain(is_word), lambda book, c: book.look(c, fillId=book.fill('<patternFill patternType="solid"><fgColor theme="0" tint="-0.15"/></patternFill>'))),
    "red below nothing": on(is_measured, lambda book, c: book.look(c, numFmtId=book.format("0.0;[Red]-0.0"), applyNumberFormat=1) if "." in c.find(m("v")).text else None),
    "in the middle": on(plain(is_word), lambda book, c: etree.SubElement(book.look(c), m("alignment"), horizontal="center", wrapText="1")),
    "a condition of colour": condition('<font><b/><color rgb="FF8A1010"/></font><fill><patternFill><bgColor rgb="FFF4E8D0"/></patternFill></fill>'),
    "printed across": lambda book: book.sheet.append(etree.fromstring(f'<pageSetup xmlns="{M}" orientation="landscape" paperSize="9"/>')),
    "protected": lambda book: book.after(f'<sheetProtection xmlns="{M}" sheet="1" objects="1"/>'),
    "filters": lambda book: book.after(f'<autoFilter xmlns="{M}" ref="A1:I9"/>'),
    "an old look of errors": lambda book: book.sheet.append(etree.fromstring(f'<ignoredErrors xmlns="{M}"><ignoredError sqref="A1:A9" numberStoredAsText="1"/></ignoredErrors>')),
    "a name": lambda book: sheets(book).addnext(etree.fromstring(f'<definedNames xmlns="{M}"><definedName name="own">Readings!$A$1</definedName></definedNames>')),
    "computed when opened": lambda book: sheets(book).addnext(etree.Element(m("calcPr"), calcId="191029", fullCalcOnLoad="1")),
    "another tab first": put_before(f'<bookViews xmlns="{M}"><workbookView activeTab="1" firstSheet="0"/></bookViews>'),
    "made by another": put_before(f'<fileVersion xmlns="{M}" appName="xl" lastEdited="7"/>'),
    "coloured tab": lambda book: book.sheet.insert(0, etree.fromstring(f'<sheetPr xmlns="{M}"><tabColor rgb="FF1072BA"/></sheetPr>')),
    "numbers counted otherwise": lambda book: book.strings.attrib.update({"count": "7", "uniqueCount": "9"}),
    "a theme": lambda book: book.add("xl/theme/theme1.xml", b'<a:theme xmlns:a="http://schemas.openxmlformats.org/drawingml/2006/main" name="Own"/>', "application/vnd.openxmlformats-officedocument.theme+xml", "xl/workbook.xml", R + "/theme"),
    "order of computing": lambda book: book.add("xl/calcChain.xml", f'<calcChain xmlns="{M}"/>'.encode(), "application/vnd.openxmlformats-officedocument.spreadsheetml.calcChain+xml", "xl/workbook.xml", R + "/calcChain"),
    "formulas without brackets": lambda book: [setattr(c.find(m("f")), "text", re.sub(r"^\((\d+\*[A-Z]+\d+)\)", r"\1", c.find(m("f")).text)) for c in book.cells(has_formula)],
    "names of functions in small letters": summary(lambda f: re.sub(r"^[A-Z]+", lambda x: x.group().lower(), f)),
})


# Names that only look like those of the standard, and numbers in digits that it has not.


def hexadecimal(one):
    one.cell(lambda c: c.get("t") in (None, "n") and c.find(m("v")) is not None).find(m("v")).text = "0x1F"


FAULTS.update({
    "a cell of somebody's": lambda one: one.in_another_space(one.cells(lambda c: c.find(m("v")) is not None)),
    "a value of somebody's": lambda one: one.in_another_space(one.sheet.iter(m("v"))),
    "a row of somebody's": lambda one: one.in_another_space(one.rows()),
    "words of somebody's": lambda one: one.in_another_space(one.strings.iter(m("t"))),
    "a number in other digits": hexadecimal,
})


told(write("xlsx", Book, FAULTS, SAME))
