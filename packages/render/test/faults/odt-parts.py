"""Spoils a text in OpenDocument, and re-writes it without harm, in the XML of its parts (lxml and zip alone).

python3 odt-parts.py SEED EACH
Takes a.odt in this folder; writes fault-*.odt and same-*.odt, and prints their names.
"""
import copy
import re

from lxml import etree

from outsider import Cannot, Package, told, write

OASIS = "urn:oasis:names:tc:opendocument:xmlns:"
NS = {
    "office": OASIS + "office:1.0", "style": OASIS + "style:1.0", "text": OASIS + "text:1.0", "table": OASIS + "table:1.0",
    "draw": OASIS + "drawing:1.0", "fo": OASIS + "xsl-fo-compatible:1.0", "svg": OASIS + "svg-compatible:1.0",
    "xlink": "http://www.w3.org/1999/xlink", "dc": "http://purl.org/dc/elements/1.1/", "meta": OASIS + "meta:1.0",
    "form": OASIS + "form:1.0", "math": "http://www.w3.org/1998/Math/MathML", "number": OASIS + "datastyle:1.0",
    "loext": "urn:org:documentfoundation:names:experimental:office:xmlns:loext:1.0", "config": OASIS + "config:1.0",
}
WORD = re.compile(r"[A-Za-z]{4}")


def q(name):
    prefix, local = name.split(":")
    return f"{{{NS[prefix]}}}{local}"


def made(markup):
    spaces = " ".join(f'xmlns:{k}="{v}"' for k, v in NS.items())
    return list(etree.fromstring(f"<x {spaces}>{markup}</x>"))


class Text(Package):
    def __init__(self, rnd):
        super().__init__("a.odt", rnd, standalone=False, stored=("mimetype",))
        self.count = 0

    @property
    def content(self):
        return self.xml("content.xml")

    @property
    def styles(self):
        return self.xml("styles.xml")

    @property
    def body(self):
        return self.content.find(f"{q('office:body')}/{q('office:text')}")

    def all(self, *tags):
        return self.body.iter(*[q(t) for t in tags])

    def paragraphs(self):
        """Paragraphs of the running text, in no list, table, note or heading."""
        return [p for p in self.body if p.tag == q("text:p") and p.get(q("text:style-name")) == "Body" and WORD.search(p.text or "")]

    def style(self, family, properties, parent=""):
        """A style of the text's own. @returns its name"""
        self.count += 1
        name = f"Own{self.count}"
        own = self.content.find(q("office:automatic-styles"))
        inner = f' style:parent-style-name="{parent}"' if parent else ""
        own.append(made(f'<style:style style:name="{name}" style:family="{family}"{inner}>{properties}</style:style>')[0])
        return name


def words(change):
    def go(text):
        one = text.pick(p for p in text.all("text:p", "text:h") if p.text and WORD.search(p.text) and change(p.text) != p.text)
        one.text = change(one.text)
    return go


def span_with(properties):
    """Some words of a paragraph under a style of their own."""
    def go(text):
        p = text.pick(text.paragraphs())
        name = text.style("text", f"<style:text-properties {properties}/>")
        head, tail = p.text.split(" ", 1)
        span = etree.Element(q("text:span"), {q("text:style-name"): name})
        span.text, span.tail = head, " " + tail
        p.text = ""
        p.insert(0, span)
    return go


def paragraph_with(properties, within=""):
    def go(text):
        text.pick(text.paragraphs()).set(q("text:style-name"), text.style("paragraph", f"<style:paragraph-properties {properties}>{within}</style:paragraph-properties>", "Body"))
    return go


def of_kind(tag, family, properties):
    def go(text):
        one = text.pick(text.all(tag))
        prefix = "table" if tag.startswith("table") else "draw" if tag.startswith("draw") else "text"
        one.set(q(f"{prefix}:style-name"), text.style(family, properties))
    return go


def into(markup, which=Text.paragraphs):
    def go(text):
        p = text.pick(which(text))
        for one in made(markup):
            p.append(one)
    return go


def beside(markup):
    def go(text):
        p = text.pick(text.paragraphs())
        for one in reversed(made(markup)):
            p.addnext(one)
    return go


def element(which, change):
    return lambda text: change(text, text.pick(which(text)))


def around(tag, **more):
    """Puts paragraphs into something."""
    def change(text, p):
        box = etree.Element(q(tag), {q(k.replace("_", ":", 1).replace("_", "-")): v for k, v in more.items()})
        p.addprevious(box)
        box.append(p)
    return element(Text.paragraphs, change)


def common(id_, properties):
    def go(text):
        found = [s for s in text.styles.iter(q("style:style")) if s.get(q("style:name")) == id_]
        own, more = text.pick(found), made(f"<style:text-properties {properties}/>")[0]
        old = own.find(q("style:text-properties"))
        if old is None:
            own.append(more)
        else:
            old.attrib.update(more.attrib)
    return go


def gone(text, one):
    tail = one.tail
    before, parent = one.getprevious(), one.getparent()
    parent.remove(one)
    if tail and before is not None:
        before.tail = (before.tail or "") + tail
    elif tail:
        parent.text = (parent.text or "") + tail


def exchange(text, one):
    other = one.getnext()
    if other is None or other.tag != one.tag:
        raise Cannot
    other.addnext(one)


def set_(which, **more):
    def change(text, one):
        for name, value in more.items():
            one.set(q(name.replace("_", ":", 1).replace("_", "-")), value)
    return element(lambda text: text.all(which), change)


def scaled(which, fx, fy):
    def change(text, one):
        for name, f in (("svg:width", fx), ("svg:height", fy)):
            one.set(q(name), f"{float(one.get(q(name))[:-2]) * f:.3f}mm")
    return element(lambda text: text.all(which), change)


def level(change):
    def go(text):
        used = {one.get(q("text:style-name")) for one in text.all("text:list")}
        found = [one for style in text.styles.iter(q("text:list-style")) if style.get(q("style:name")) in used for one in style if one.get(q("text:level")) == "1"]
        change(text.pick(found))
    return go


def pictures_exchanged(text):
    found = sorted(n for n in text.parts if n.startswith("Pictures/"))
    if len(found) < 2:
        raise Cannot
    text.parts[found[0]], text.parts[found[1]] = text.parts[found[1]], text.parts[found[0]]


def page(markup):
    def go(text):
        one = text.styles.find(f".//{q('style:master-page')}")
        for x in made(markup):
            one.append(x)
    return go


def layout(markup="", **more):
    def go(text):
        one = text.styles.find(f".//{q('style:page-layout-properties')}")
        for name, value in more.items():
            one.set(q(name.replace("_", ":", 1).replace("_", "-")), value)
        for x in made(markup):
            one.append(x)
    return go


def metadata(name, value):
    def go(text):
        found = list(text.xml("meta.xml").iter(q(name)))
        text.pick(found).text = value
    return go


def rows(text):
    return [r for t in text.all("table:table") for r in t if r.tag == q("table:table-row")]


CHANGE = ('<text:tracked-changes><text:changed-region text:id="ct1"><text:deletion><office:change-info><dc:creator>A</dc:creator>'
          '<dc:date>2026-01-01T00:00:00</dc:date></office:change-info><text:p>gone</text:p></text:deletion></text:changed-region></text:tracked-changes>')


def tracked(text):
    text.body.insert(0, made(CHANGE)[0])
    p = text.pick(text.paragraphs())
    p.insert(0, made('<text:change text:change-id="ct1"/>')[0])


FAULTS = {
    "a paragraph of somebody's": lambda one: one.in_another_space(p for p in one.body.iter(q("text:p")) if WORD.search("".join(p.itertext()))),
    "a heading of somebody's": lambda one: one.in_another_space(one.body.iter(q("text:h"))),
    "a cell of somebody's": lambda one: one.in_another_space(one.body.iter(q("table:table-cell"))),
    "a letter": words(lambda t: WORD.sub("Wxyz", t, count=1)),
    "capitals": words(lambda t: t.swapcase()),
    "a letter like it": words(lambda t: t.replace("o", "\u043e").replace("e", "\u0435").replace("a", "\u0430")),
    "an unseen letter": words(lambda t: WORD.sub(lambda m: m.group()[:2] + "\u200b" + m.group()[2:], t, count=1)),
    "turned letters": words(lambda t: WORD.sub(lambda m: m.group()[0] + "\u202e" + m.group()[1:] + "\u202c", t, count=1)),
    "a blank less": words(lambda t: re.sub(r"(?<=\w) (?=\w)", "", t, count=1)),
    "a paragraph gone": element(Text.paragraphs, gone),
    "a paragraph twice": element(Text.paragraphs, lambda text, p: p.addnext(copy.deepcopy(p))),
    "a heading gone": element(lambda text: text.all("text:h"), gone),
    "a heading deeper": element(lambda text: text.all("text:h"), lambda text, h: (h.set(q("text:outline-level"), "5"), h.set(q("text:style-name"), "Heading5"))),
    "an item gone": element(lambda text: text.all("text:list-item"), gone),
    "items exchanged": element(lambda text: [i for i in text.all("text:list-item") if i.getnext() is not None], exchange),
    "a list from seven": element(lambda text: [i for l in text.all("text:list") if l.get(q("text:style-name")) == "Numbers" for i in l], lambda text, i: i.set(q("text:start-value"), "7")),
    "a row gone": element(rows, gone),
    "a row twice": element(rows, lambda text, r: r.set(q("table:number-rows-repeated"), "2")),
    "rows exchanged": element(lambda text: rows(text)[:-1], exchange),
    "cells exchanged": element(lambda text: [c for c in text.all("table:table-cell") if c.getnext() is not None], exchange),
    "a cell over two": set_("table:table-cell", table_number_columns_spanned="2"),
    "a cell covered": element(lambda text: text.all("table:table-cell"), lambda text, c: setattr(c, "tag", q("table:covered-table-cell"))),
    "a row collapsed": element(rows, lambda text, r: r.set(q("table:visibility"), "collapse")),
    "a row filtered": element(rows, lambda text, r: r.set(q("table:visibility"), "filter")),
    "a column collapsed": set_("table:table-column", table_visibility="collapse"),
    "a column of no width": of_kind("table:table-column", "table-column", '<style:table-column-properties style:column-width="0mm"/>'),
    "a row of no height": element(rows, lambda text, r: r.set(q("table:style-name"), text.style("table-row", '<style:table-row-properties style:row-height="0.1mm"/>'))),
    "a table from the right": of_kind("table:table", "table", '<style:table-properties style:writing-mode="rl-tb"/>'),
    "a table hidden": of_kind("table:table", "table", '<style:table-properties table:display="false"/>'),
    "a table off the page": of_kind("table:table", "table", '<style:table-properties fo:margin-left="-400mm" table:align="left"/>'),
    "a cell turned": of_kind("table:table-cell", "table-cell", '<style:table-cell-properties style:rotation-angle="90"/>'),
    "a cell from top to bottom": of_kind("table:table-cell", "table-cell", '<style:table-cell-properties style:writing-mode="tb-rl"/>'),
    "hidden": span_with('text:display="none"'),
    "hidden on a condition": span_with('text:display="condition" text:condition="true"'),
    "struck": span_with('style:text-line-through-style="solid"'),
    "struck with a letter": span_with('style:text-line-through-style="solid" style:text-line-through-text="x"'),
    "white": span_with('fo:color="#ffffff"'),
    "see-through": span_with('loext:opacity="0%"'),
    "of size one": span_with('fo:font-size="1pt"'),
    "of no size": span_with('fo:font-size="2%"'),
    "hardly wide": span_with('style:text-scale="1%"'),
    "on each other": span_with('fo:letter-spacing="-10mm"'),
    "lower": span_with('style:text-position="sub 58%"'),
    "far below": span_with('style:text-position="-100% 100%"'),
    "capitals by look": span_with('fo:text-transform="uppercase"'),
    "small capitals by look": span_with('fo:font-variant="small-caps"'),
    "turned": span_with('style:text-rotation-angle="90"'),
    "in two lines": span_with('style:text-combine="letters"'),
    "hollow": span_with('style:text-outline="true"'),
    "in a font of signs": span_with('style:font-name="OpenSymbol" fo:font-family="OpenSymbol"'),
    "bold": span_with('fo:font-weight="bold"'),
    "slanted": span_with('fo:font-style="italic"'),
    "underlined": span_with('style:text-underline-style="solid"'),
    "in the middle": paragraph_with('fo:text-align="center"'),
    "written from the right": paragraph_with('style:writing-mode="rl-tb"'),
    "on a page of its own": paragraph_with('fo:break-before="page"'),
    "outside the page": paragraph_with('fo:margin-left="-500mm"'),
    "begun outside the page": paragraph_with('fo:text-indent="-500mm"'),
    "lines on each other": paragraph_with('fo:line-height="2%"'),
    "lines on each other, in mm": paragraph_with('fo:line-height="0.2mm"'),
    "a border around": paragraph_with('fo:border="1mm solid #000000"'),
    "a quotation": element(Text.paragraphs, lambda text, p: p.set(q("text:style-name"), "Quote")),
    "a heading by its style": element(Text.paragraphs, lambda text, p: (setattr(p, "tag", q("text:h")), p.set(q("text:outline-level"), "2"))),
    "in a hidden section": around("text:section", text_name="s", text_display="none"),
    "in a section on a condition": around("text:section", text_name="s", text_display="condition", text_condition="ooow:1"),
    "in a linked section": lambda text: (around("text:section", text_name="s")(text), next(text.all("text:section")).insert(0, made('<text:section-source xlink:href="x.odt"/>')[0])),
    "hidden words": into('<text:hidden-text text:condition="ooow:1" text:string-value="x" text:is-hidden="true">x</text:hidden-text>'),
    "a hidden paragraph": into('<text:hidden-paragraph text:condition="ooow:1" text:is-hidden="true"/>'),
    "words on a condition": into('<text:conditional-text text:condition="ooow:1" text:string-value-if-true="a" text:string-value-if-false="b">a</text:conditional-text>'),
    "a day": into('<text:date text:date-value="2026-01-01">1 January</text:date>'),
    "a place to fill in": into('<text:placeholder text:placeholder-type="text">&lt;name&gt;</text:placeholder>'),
    "another line": into("<text:line-break/><text:span>more</text:span>"),
    "blanks": into('<text:s text:c="9"/><text:span>x</text:span>'),
    "a ruby": into("<text:ruby><text:ruby-base>x</text:ruby-base><text:ruby-text>y</text:ruby-text></text:ruby>"),
    "a formula": into('<draw:frame svg:width="9mm" svg:height="9mm"><draw:object><math:math><math:mi>x</math:mi></math:math></draw:object></draw:frame>'),
    "a box of words": into('<draw:frame svg:width="9mm" svg:height="9mm"><draw:text-box><text:p>boxed</text:p></draw:text-box></draw:frame>'),
    "a shape over it": into('<draw:rect svg:width="90mm" svg:height="90mm"/>'),
    "a control": into('<draw:control svg:width="9mm" svg:height="9mm"/>'),
    "an index": beside('<text:table-of-content text:name="x"><text:index-body><text:p>Contents</text:p></text:index-body></text:table-of-content>'),
    "a change": tracked,
    "a link no more": element(lambda text: text.all("text:a"), lambda text, one: setattr(one, "tag", q("text:span"))),
    "a link elsewhere": set_("text:a", xlink_href="https://elsewhere.example/"),
    "a note reworded": element(lambda text: [p for n in text.all("text:note-body") for p in n], lambda text, p: setattr(p, "text", WORD.sub("Wxyz", p.text, count=1))),
    "a note gone": element(lambda text: text.all("text:note"), gone),
    "a picture stretched": scaled("draw:frame", 1.3, 1),
    "a picture of no size": scaled("draw:frame", 0.0005, 0.0005),
    "a picture turned": set_("draw:frame", draw_transform="rotate (1.57) translate (1cm 9cm)"),
    "a picture mirrored": of_kind("draw:frame", "graphic", '<style:graphic-properties style:mirror="horizontal"/>'),
    "a picture cut": of_kind("draw:frame", "graphic", '<style:graphic-properties fo:clip="rect(9mm, 9mm, 9mm, 9mm)"/>'),
    "a picture grey": of_kind("draw:frame", "graphic", '<style:graphic-properties draw:color-mode="greyscale"/>'),
    "a picture see-through": of_kind("draw:frame", "graphic", '<style:graphic-properties draw:image-opacity="10%"/>'),
    "a picture lighter": of_kind("draw:frame", "graphic", '<style:graphic-properties draw:luminance="70%"/>'),
    "a picture behind the words": of_kind("draw:frame", "graphic", '<style:graphic-properties style:run-through="background" style:wrap="run-through"/>'),
    "a picture described otherwise": element(lambda text: text.all("svg:desc"), lambda text, one: setattr(one, "text", "Something else")),
    "a picture gone": element(lambda text: text.all("draw:frame"), gone),
    "a picture from elsewhere": set_("draw:image", xlink_href="https://elsewhere.example/x.png"),
    "pictures exchanged": pictures_exchanged,
    "hidden by its style": common("Heading1", 'text:display="none"'),
    "struck by its style": common("Heading2", 'style:text-line-through-style="solid"'),
    "white by its style": common("Body", 'fo:color="#ffffff"'),
    "capitals by its style": common("Heading2", 'fo:text-transform="uppercase"'),
    "letters for numbers": level(lambda one: one.set(q("style:num-format"), "I") if one.tag == q("text:list-level-style-number") else setattr(one, "tag", q("text:list-level-style-number"))),
    "words before numbers": level(lambda one: one.set(q("style:num-prefix"), "No. ")),
    "a header": page("<style:header><text:p>Out of date</text:p></style:header>"),
    "a footer": page("<style:footer><text:p>Out of date</text:p></style:footer>"),
    "in columns": layout('<style:columns fo:column-count="2"/>'),
    "a picture behind the page": layout('<style:background-image xlink:href="Pictures/picture-1.png"/>'),
    "a black page": layout(fo_background_color="#000000"),
    "called otherwise": metadata("dc:title", "Round the moor"),
    "styles gone": lambda text: text.parts.pop("styles.xml"),
    "cut short": lambda text: text.parts.__setitem__("content.xml", text.parts["content.xml"][:-60]),
}


def spans(text):
    for p in text.paragraphs()[::2]:
        head, tail = p.text[:5], p.text[5:]
        span = etree.Element(q("text:span"))
        span.text, span.tail = head, tail
        p.text = ""
        p.insert(0, span)


def prefixed(text):
    data = text.parts["content.xml"].decode()
    text.parts["content.xml"] = re.sub(r"(</?|\s)text:", r"\1own:", data).replace("xmlns:text=", "xmlns:own=").encode()


def renamed_styles(text):
    text.parts["content.xml"] = text.parts["content.xml"].replace(b'"T1"', b'"Strong_20_1"')


def indented(text):
    data = text.parts["content.xml"].decode()
    text.parts["content.xml"] = re.sub(r"><(table:table-row|text:list-item)", r">\n   <\1", data).encode()


def part(name, data, kind):
    def go(text):
        text.parts[name] = data
        text.parts["META-INF/manifest.xml"] = text.parts["META-INF/manifest.xml"].replace(
            b"</manifest:manifest>", f'<manifest:file-entry manifest:full-path="{name}" manifest:media-type="{kind}"/></manifest:manifest>'.encode())
    return go


def meta_with(markup):
    def go(text):
        own = text.xml("meta.xml").find(q("office:meta"))
        for one in made(markup):
            own.append(one)
    return go


SETTINGS = f'<office:document-settings xmlns:office="{NS["office"]}" office:version="1.3"/>'.encode()
SAME = {
    "saved again": lambda text: text.content,
    "in another order": lambda text: setattr(text, "order", ["mimetype", *sorted((n for n in text.parts if n != "mimetype"), reverse=True)]),
    "spans without a look": spans,
    "with another prefix": prefixed,
    "styles by other names": renamed_styles,
    "line ends between rows": indented,
    "settings": part("settings.xml", SETTINGS, "text/xml"),
    "a small picture of it": part("Thumbnails/thumbnail.png", b"\x89PNG\r\n", "image/png"),
    "how often it was saved": meta_with("<meta:editing-cycles>7</meta:editing-cycles><meta:editing-duration>PT9S</meta:editing-duration>"),
    "counted": meta_with('<meta:document-statistic meta:page-count="3" meta:word-count="9"/>'),
    "another writer": meta_with("<dc:creator>A. Warden</dc:creator>"),
    "a bookmark": into('<text:bookmark text:name="here"/>'),
    "a place to refer to": into('<text:reference-mark text:name="here"/>'),
    "a soft page break": into("<text:soft-page-break/>"),
    "a comment of a reader": into('<office:annotation><dc:creator>A</dc:creator><text:p>seen</text:p></office:annotation>'),
    "a mark of the index": into('<text:alphabetical-index-mark text:string-value="x"/>'),
    "no emphasis, said": span_with('fo:font-weight="normal" fo:font-style="normal" style:text-line-through-style="none" style:text-underline-style="none"'),
    "a language": span_with('fo:language="en" fo:country="GB"'),
    "not hyphenated": span_with('fo:hyphenate="false"'),
    "more room": paragraph_with('fo:margin-top="3mm" fo:margin-bottom="4mm"'),
    "kept together": paragraph_with('fo:keep-together="always" fo:orphans="3"'),
    "a little in": paragraph_with('fo:margin-left="4mm" fo:text-indent="2mm"'),
    "a tab stop": paragraph_with("", '<style:tab-stops><style:tab-stop style:position="9mm"/></style:tab-stops>'),
    "written as ever": paragraph_with('style:writing-mode="lr-tb"'),
    "in a section": around("text:section", text_name="s"),
    "a wider column": of_kind("table:table-column", "table-column", '<style:table-column-properties style:column-width="30mm"/>'),
    "a line around a cell": of_kind("table:table-cell", "table-cell", '<style:table-cell-properties fo:padding="2mm" fo:border="0.5pt solid #808080"/>'),
    "in the middle of a cell's height": of_kind("table:table-cell", "table-cell", '<style:table-cell-properties style:vertical-align="middle"/>'),
    "a table as wide as the page": of_kind("table:table", "table", '<style:table-properties table:align="margins" style:may-break-between-rows="true"/>'),
    "a table called otherwise": set_("table:table", table_name="Other"),
    "a picture called otherwise": set_("draw:frame", draw_name="Other"),
    "a picture in its own layer": set_("draw:frame", draw_z_index="4"),
    "wider margins": layout(fo_margin="30mm"),
    "a style that nobody uses": lambda text: text.styles.find(q("office:styles")).append(made('<style:style style:name="Unused" style:family="paragraph"><style:text-properties text:display="none"/></style:style>')[0]),
    "ids": lambda text: [p.set("{http://www.w3.org/XML/1998/namespace}id", f"p{i}") for i, p in enumerate(text.paragraphs())],
}

told(write("odt", Text, FAULTS, SAME))
