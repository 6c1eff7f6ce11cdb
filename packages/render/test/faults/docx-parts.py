"""Spoils a document, and re-writes it without harm, in the XML of its parts (lxml and zip alone; no library of documents).

python3 docx-parts.py SEED EACH
Takes a.docx in this folder; writes fault-*.docx and same-*.docx, and prints their names.
"""
import copy
import re
import zipfile

from lxml import etree

from outsider import Cannot, Package, told, write

W = "http://schemas.openxmlformats.org/wordprocessingml/2006/main"
A = "http://schemas.openxmlformats.org/drawingml/2006/main"
WP = "http://schemas.openxmlformats.org/drawingml/2006/wordprocessingDrawing"
PIC = "http://schemas.openxmlformats.org/drawingml/2006/picture"
R = "http://schemas.openxmlformats.org/officeDocument/2006/relationships"
P = "http://schemas.openxmlformats.org/package/2006/relationships"
T = "http://schemas.openxmlformats.org/package/2006/content-types"
MC = "http://schemas.openxmlformats.org/markup-compatibility/2006"
W14 = "http://schemas.microsoft.com/office/word/2010/wordml"  # term-guard: standard (ECMA-376-1, annex A; a namespace of extensions)
SPACE = "{http://www.w3.org/XML/1998/namespace}space"
WORD = re.compile(r"[A-Za-z]{4}")
KIND = "application/vnd.openxmlformats-officedocument.wordprocessingml.%s+xml"


def w(tag):
    return f"{{{W}}}{tag}"


def made(markup):
    names_of = f'xmlns:w="{W}" xmlns:r="{R}" xmlns:a="{A}" xmlns:wp="{WP}" xmlns:pic="{PIC}" xmlns:mc="{MC}" xmlns:w14="{W14}"'
    return list(etree.fromstring(f"<x {names_of}>{markup}</x>"))


class Text(Package):
    def __init__(self, rnd):
        super().__init__("a.docx", rnd)

    @property
    def body(self):
        return self.xml("word/document.xml").find(w("body"))

    def all(self, *tags):
        return self.body.iter(*[w(tag) for tag in tags])

    def runs(self):
        """Runs with words in them."""
        return [r for r in self.all("r") if WORD.search("".join(r.itertext()))]

    def paragraphs(self):
        """Paragraphs of the running text."""
        return [p for p in self.body if p.tag == w("p") and WORD.search("".join(p.itertext()))]

    def plain(self):
        return [p for p in self.paragraphs() if p.find(f"{w('pPr')}/{w('pStyle')}") is None and p.find(f"{w('pPr')}/{w('numPr')}") is None]

    def texts(self):
        return [t for t in self.all("t") if t.text and WORD.search(t.text)]

    def settings(self, inner):
        self.add("word/settings.xml", f'<w:settings xmlns:w="{W}">{inner}</w:settings>'.encode(), KIND % "settings", R + "/settings")

    def add(self, part, data, kind, type_, id_="rIdX"):
        self.parts[part] = data
        if kind:
            etree.SubElement(self.xml("[Content_Types].xml"), f"{{{T}}}Override", PartName="/" + part, ContentType=kind)
        etree.SubElement(self.xml("word/_rels/document.xml.rels"), f"{{{P}}}Relationship", Id=id_, Type=type_, Target="/" + part)

    def section(self):
        return self.body.find(w("sectPr"))


def properties(one, tag):
    found = one.find(w(tag))
    if found is None:
        found = etree.Element(w(tag))
        one.insert(0, found)
    return found


def on(which, tag, markup):
    """Puts properties on one of some things."""
    def go(text):
        props = properties(text.pick(which(text)), tag)
        for one in made(markup):
            old = props.find(one.tag)
            if old is not None:
                props.remove(old)
            props.append(one)
    return go


def run_with(markup):
    return on(Text.runs, "rPr", markup)


def paragraph_with(markup):
    return on(Text.plain, "pPr", markup)


def cell_with(markup):
    return on(lambda text: text.all("tc"), "tcPr", markup)


def row_with(markup):
    return on(lambda text: [r for r in text.all("tr")][1:], "trPr", markup)


def table_with(markup):
    return on(lambda text: text.all("tbl"), "tblPr", markup)


def words(change):
    def go(text):
        one = text.pick(t for t in text.texts() if change(t.text) != t.text)
        one.text = change(one.text)
        one.set(SPACE, "preserve")
    return go


def into_run(markup):
    """Puts something among the words of a run."""
    def go(text):
        r = text.pick(text.runs())
        for one in made(markup):
            r.append(one)
    return go


def into_paragraph(markup):
    def go(text):
        p = text.pick(text.paragraphs())
        for one in made(markup):
            p.append(one)
    return go


def into_body(markup):
    def go(text):
        p = text.pick(text.paragraphs())
        for one in reversed(made(markup)):
            p.addnext(one)
    return go


def style_with(id_, props, markup):
    def go(text):
        found = [s for s in text.xml("word/styles.xml").iter(w("style")) if s.get(w("styleId")) == id_]
        own = properties(text.pick(found), props)
        if props == "rPr":
            found[0].append(own)
        for one in made(markup):
            own.append(one)
    return go


def defaults(props, markup):
    def go(text):
        own = text.pick(text.xml("word/styles.xml").iter(w(props)))[0]
        for one in made(markup):
            own.append(one)
    return go


def numbering(change):
    def go(text):
        found = [one for one in text.xml("word/numbering.xml").iter(w("lvl")) if one.get(w("ilvl")) == "0"]
        used = {n.get(w("val")) for n in text.all("numId")}
        nums = {n.get(w("numId")): n.find(w("abstractNumId")).get(w("val")) for n in text.xml("word/numbering.xml").iter(w("num"))}
        abstract = {nums[n] for n in used if n in nums}
        change(text.pick(one for one in found if one.getparent().get(w("abstractNumId")) in abstract))
    return go


def picture(change):
    return lambda text: change(text, text.pick(text.all("drawing")))


def blip(markup):
    def change(text, one):
        for x in made(markup):
            one.find(f".//{{{A}}}blip").append(x)
    return picture(change)


def extent(fx, fy):
    def change(text, one):
        for e in (one.find(f".//{{{WP}}}extent"), one.find(f".//{{{A}}}ext")):
            e.set("cx", str(int(int(e.get("cx")) * fx)))
            e.set("cy", str(int(int(e.get("cy")) * fy)))
    return picture(change)


def note(change):
    def go(text):
        found = [t for t in text.xml("word/footnotes.xml").iter(w("t")) if t.text and WORD.search(t.text)]
        change(text.pick(found))
    return go


def section(markup):
    def go(text):
        for one in made(markup):
            text.section().append(one)
    return go


def element(which, change):
    return lambda text: change(text, text.pick(which(text)))


def deleted(text, r):
    wrap = etree.Element(w("del"), {w("id"): "9", w("author"): "A"})
    r.addprevious(wrap)
    wrap.append(r)
    for t in r.iter(w("t")):
        t.tag = w("delText")


def wrapped(tag, **more):
    def change(text, r):
        wrap = etree.Element(w(tag), {w(k): v for k, v in more.items()})
        r.addprevious(wrap)
        wrap.append(r)
    return change


def under_its_like(text):
    """Levels of items that come right after one which is as deep: others have nothing to lie deeper than."""
    found = []
    for level in text.all("ilvl"):
        before = level.getparent().getparent().getparent().getprevious()
        other = None if before is None else before.find(f"{w('pPr')}/{w('numPr')}/{w('ilvl')}")
        if other is not None and int(other.get(w("val"))) >= int(level.get(w("val"))):
            found.append(level)
    return found


def exchange(text, one):
    other = one.getnext()
    if other is None or other.tag != one.tag:
        raise Cannot
    other.addnext(one)


def emptied(text, t):
    t.text = ""


def moved_to_end(text, one):
    one.getparent().insert(len(one.getparent()) - 1, one)


def text_setter(change):
    def go(t):
        t.text = change(t.text)
    return go


def set_attribute(path, attribute, value):
    def go(level):
        level.find(w(path)).set(w(attribute), value)
    return go


def other_picture(text, one):
    found = sorted(n for n in text.parts if n.startswith("word/media/"))
    if len(found) < 2:
        raise Cannot
    text.parts[found[0]], text.parts[found[1]] = text.parts[found[1]], text.parts[found[0]]


def glossary(text):
    text.add("word/header1.xml", f'<w:hdr xmlns:w="{W}"><w:p><w:r><w:t>Out of date</w:t></w:r></w:p></w:hdr>'.encode(), KIND % "header", R + "/header", "rIdH")
    text.section().insert(0, made('<w:headerReference w:type="default" r:id="rIdH"/>')[0])


def field(instruction, shown="shown"):
    return (f'<w:r><w:fldChar w:fldCharType="begin"/></w:r><w:r><w:instrText>{instruction}</w:instrText></w:r>'
            f'<w:r><w:fldChar w:fldCharType="separate"/></w:r><w:r><w:t>{shown}</w:t></w:r><w:r><w:fldChar w:fldCharType="end"/></w:r>')


FAULTS = {
    "words of somebody's": lambda one: one.in_another_space(one.texts()),
    "a paragraph of somebody's": lambda one: one.in_another_space(one.plain()),
    "a row of somebody's": lambda one: one.in_another_space(one.all("tr")),
    "a letter": words(lambda t: WORD.sub("Wxyz", t, count=1)),
    "a capital": words(lambda t: t.swapcase()),
    "a letter like it": words(lambda t: t.replace("o", "\u043e").replace("e", "\u0435").replace("a", "\u0430")),
    "an unseen letter": words(lambda t: WORD.sub(lambda m: m.group()[:2] + "\u200b" + m.group()[2:], t, count=1)),
    "turned letters": words(lambda t: WORD.sub(lambda m: m.group()[0] + "\u202e" + m.group()[1:] + "\u202c", t, count=1)),
    "another blank": words(lambda t: re.sub(r"(?<=\w) (?=\w)", "", t, count=1)),
    "no words": element(Text.texts, emptied),
    "a run gone": element(Text.runs, lambda text, r: r.getparent().remove(r)),
    "a run twice": element(Text.runs, lambda text, r: r.addnext(copy.deepcopy(r))),
    "a paragraph gone": element(Text.paragraphs, lambda text, p: p.getparent().remove(p)),
    "a paragraph twice": element(Text.paragraphs, lambda text, p: p.addnext(copy.deepcopy(p))),
    "a paragraph at the end": element(lambda text: text.paragraphs()[:-3], moved_to_end),
    "a row gone": element(lambda text: list(text.all("tr"))[1:], lambda text, r: r.getparent().remove(r)),
    "rows exchanged": element(lambda text: list(text.all("tr"))[1:-1], exchange),
    "a cell's words in the next": element(lambda text: [c for c in text.all("tc") if c.getnext() is not None], exchange),
    "hidden": run_with("<w:vanish/>"),
    "struck": run_with("<w:strike/>"),
    "struck twice": run_with("<w:dstrike/>"),
    "white": run_with('<w:color w:val="FFFFFF"/>'),
    "of the ground's colour": run_with('<w:color w:val="auto" w:themeColor="background1"/>'),
    "black marker": run_with('<w:highlight w:val="black"/>'),
    "of size one": run_with('<w:sz w:val="2"/>'),
    "hardly wide": run_with('<w:w w:val="1"/>'),
    "on each other": run_with('<w:spacing w:val="-400"/>'),
    "far below": run_with('<w:position w:val="-600"/>'),
    "lower than the line": run_with('<w:vertAlign w:val="subscript"/>'),
    "capitals by look": run_with("<w:caps/>"),
    "small capitals by look": run_with("<w:smallCaps/>"),
    "in a font of signs": run_with('<w:rFonts w:ascii="Symbol" w:hAnsi="Symbol"/>'),
    "from right to left": run_with("<w:rtl/>"),
    "bold": on(lambda text: [r for r in text.runs() if r.find(f"{w('rPr')}/{w('b')}") is None and r.getparent() in text.plain()], "rPr", "<w:b/>"),
    "underlined": run_with('<w:u w:val="single"/>'),
    "outlined by look of newer kind": run_with('<w14:textFill><w14:noFill/></w14:textFill>'),
    "compressed by the east": run_with('<w:eastAsianLayout w:id="1" w:combine="1"/>'),
    "put in": element(Text.runs, wrapped("ins", id="8", author="A")),
    "taken out": element(Text.runs, deleted),
    "moved away": element(Text.runs, wrapped("moveFrom", id="7", author="A")),
    "a heading": paragraph_with('<w:pStyle w:val="Heading2"/>'),
    "a quotation": paragraph_with('<w:pStyle w:val="Quote"/>'),
    "an item": paragraph_with('<w:numPr><w:ilvl w:val="0"/><w:numId w:val="1"/></w:numPr>'),
    "in the middle": paragraph_with('<w:jc w:val="center"/>'),
    "written from the right": paragraph_with("<w:bidi/>"),
    "on a page of its own": paragraph_with("<w:pageBreakBefore/>"),
    "outside the page": paragraph_with('<w:ind w:left="-30000"/>'),
    "lines on each other": paragraph_with('<w:spacing w:line="20" w:lineRule="exact"/>'),
    "in a frame elsewhere": paragraph_with('<w:framePr w:w="900" w:hAnchor="page" w:vAnchor="page" w:x="30000" w:y="30000"/>'),
    "no list any more": element(lambda text: [n.getparent() for n in text.all("numPr")], lambda text, p: p.remove(p.find(w("numPr")))),
    "deeper": element(under_its_like, lambda text, n: n.set(w("val"), str(int(n.get(w("val"))) + 1))),
    "a cell from top to bottom": cell_with('<w:textDirection w:val="tbRl"/>'),
    "a cell over two": cell_with('<w:gridSpan w:val="2"/>'),
    "a cell that goes on": cell_with("<w:vMerge/>"),
    "a row hidden": row_with("<w:hidden/>"),
    "a row taken out": row_with('<w:del w:id="3" w:author="A"/>'),
    "a row of no height": row_with('<w:trHeight w:val="1" w:hRule="exact"/>'),
    "a row from the right": table_with("<w:bidiVisual/>"),
    "a table off the page": table_with('<w:tblpPr w:tblpX="40000" w:tblpY="40000" w:horzAnchor="page" w:vertAnchor="page"/>'),
    "a field": into_paragraph(field("DATE")),
    "an included text": into_paragraph('<w:r><w:t xml:space="preserve"> </w:t></w:r>' + field('INCLUDETEXT "c:/x.docx"')),
    "a sign": into_run('<w:sym w:font="Wingdings" w:char="F0FC"/>'),
    "a hyphen that stays": into_run("<w:noBreakHyphen/>"),
    "a line": into_run("<w:br/><w:t>more</w:t>"),
    "an object": into_run('<w:object><w:control r:id="rId1"/></w:object>'),
    "a choice of newer kind": into_run("<mc:AlternateContent><mc:Choice Requires=\"w14\"><w:t>now</w:t></mc:Choice><mc:Fallback><w:t>then</w:t></mc:Fallback></mc:AlternateContent>"),
    "a formula": into_paragraph('<m:oMath xmlns:m="http://schemas.openxmlformats.org/officeDocument/2006/math"><m:r><m:t>x</m:t></m:r></m:oMath>'),
    "a part of another file": into_body('<w:altChunk r:id="rId1"/>'),
    "a box of words": into_run('<w:pict><v:shape xmlns:v="urn:schemas-microsoft-com:vml"><v:textbox><w:txbxContent><w:p><w:r><w:t>boxed</w:t></w:r></w:p></w:txbxContent></v:textbox></v:shape></w:pict>'),  # term-guard: standard (ECMA-376-1, annex A; a namespace of extensions)
    "a border of a page": section('<w:pgBorders><w:top w:val="single" w:sz="400" w:color="000000"/></w:pgBorders>'),
    "a header": glossary,
    "in columns": section('<w:cols w:num="2"/>'),
    "lines counted": section('<w:lnNumType w:countBy="1"/>'),
    "hidden by its style": style_with("Heading1", "rPr", "<w:vanish/>"),
    "struck by its style": style_with("Heading2", "rPr", "<w:strike/>"),
    "white by its style": style_with("Quote", "rPr", '<w:color w:val="FFFFFF"/>'),
    "capitals by its style": style_with("Heading2", "rPr", "<w:caps/>"),
    "hidden by default": defaults("rPrDefault", "<w:vanish/>"),
    "words before numbers": numbering(set_attribute("lvlText", "val", "No. %1 of")),
    "letters for numbers": numbering(lambda one: one.find(w("numFmt")).set(w("val"), "upperRoman" if one.find(w("numFmt")).get(w("val")) != "bullet" else "decimal")),
    "numbers hidden": numbering(lambda one: [one.append(x) for x in made("<w:rPr><w:vanish/></w:rPr>")]),
    "a note reworded": note(text_setter(lambda t: WORD.sub("Wxyz", t, count=1))),
    "a note gone": element(lambda text: text.all("footnoteReference"), lambda text, one: one.getparent().getparent().remove(one.getparent())),
    "a picture turned": picture(lambda text, one: one.find(f".//{{{A}}}xfrm").set("rot", "5400000")),
    "a picture mirrored": picture(lambda text, one: one.find(f".//{{{A}}}xfrm").set("flipH", "1")),
    "a picture cut": picture(lambda text, one: one.find(f".//{{{A}}}blip").addnext(made('<a:srcRect l="20000"/>')[0])),
    "a picture stretched": extent(1.3, 1),
    "a picture of no size": extent(0.0005, 0.0005),
    "a picture grey": blip("<a:grayscl/>"),
    "a picture see-through": blip('<a:alphaModFix amt="20000"/>'),
    "a picture in two colours": blip('<a:duotone><a:srgbClr val="000000"/><a:srgbClr val="FF0000"/></a:duotone>'),
    "a picture brighter": blip('<a:lum bright="60000"/>'),
    "a picture hidden": picture(lambda text, one: one.find(f".//{{{WP}}}docPr").set("hidden", "1")),
    "a picture described otherwise": picture(lambda text, one: [x.set("descr", "Something else") for x in (one.find(f".//{{{WP}}}docPr"), one.find(f".//{{{PIC}}}cNvPr"))]),
    "a picture in another shape": picture(lambda text, one: one.find(f".//{{{A}}}prstGeom").set("prst", "ellipse")),
    "a picture gone": picture(lambda text, one: one.getparent().remove(one)),
    "pictures exchanged": picture(other_picture),
    "a link elsewhere": lambda text: text.pick(x for x in text.xml("word/_rels/document.xml.rels") if x.get("TargetMode") == "External").set("Target", "https://elsewhere.example/"),
    "a link no more": element(lambda text: text.all("hyperlink"), lambda text, one: one.attrib.clear()),
    "styles gone": lambda text: text.parts.pop("word/styles.xml"),
    "cut short": lambda text: text.parts.__setitem__("word/document.xml", text.parts["word/document.xml"][:-60]),
}


def split_runs(text):
    for r in text.runs()[::2]:
        t = r.find(w("t"))
        if t is None or len(t.text or "") < 6:
            continue
        other = copy.deepcopy(r)
        for x in list(other)[:]:
            if x.tag not in (w("rPr"), w("t")):
                other.remove(x)
        if [x.tag for x in r if x.tag != w("rPr")] != [w("t")]:
            continue
        other.find(w("t")).text, t.text = t.text[3:], t.text[:3]
        for x in (t, other.find(w("t"))):
            x.set(SPACE, "preserve")
        r.addnext(other)


def ids(text):
    for i, p in enumerate(text.all("p")):
        p.set(w("rsidR"), "00A1%04X" % i)
        p.set(f"{{{W14}}}paraId", "1A2B%04X" % i)


def prefixed(text):
    data = text.parts["word/document.xml"].decode()
    text.parts["word/document.xml"] = re.sub(r"(</?|\s)w:", r"\1own:", data).replace("xmlns:w=", "xmlns:own=").encode()


def renamed_part(text):
    text.parts["word/main.xml"] = text.parts.pop("word/document.xml")
    text.parts["word/_rels/main.xml.rels"] = text.parts.pop("word/_rels/document.xml.rels")
    for part in ("_rels/.rels", "[Content_Types].xml"):
        text.parts[part] = text.parts[part].replace(b"word/document.xml", b"word/main.xml")


def renamed_styles(text):
    for part in ("word/styles.xml", "word/document.xml"):
        text.parts[part] = text.parts[part].replace(b'"Heading2"', b'"Titre2"')


SAME = {
    "saved again": lambda text: text.body,
    "not packed": lambda text: setattr(text, "how", zipfile.ZIP_STORED),
    "in another order": lambda text: setattr(text, "order", sorted(text.parts)),
    "runs in two": split_runs,
    "numbers of changes": ids,
    "with another prefix": prefixed,
    "the main part called otherwise": renamed_part,
    "styles by other ids": renamed_styles,
    "checked for spelling": into_run("<w:lastRenderedPageBreak/>"),
    "marks of spelling": into_paragraph('<w:proofErr w:type="spellStart"/><w:proofErr w:type="spellEnd"/>'),
    "a bookmark": into_paragraph('<w:bookmarkStart w:id="4" w:name="here"/><w:bookmarkEnd w:id="4"/>'),
    "a place that may be changed": into_paragraph('<w:permStart w:id="5" w:edGrp="everyone"/><w:permEnd w:id="5"/>'),
    "in a field of the form": element(Text.runs, lambda text, r: (lambda box: (r.addprevious(box), box[-1].append(r)))(made("<w:sdt><w:sdtPr><w:alias w:val=\"x\"/></w:sdtPr><w:sdtContent/></w:sdt>")[0])),
    "a smart tag": element(Text.runs, wrapped("smartTag", uri="urn:x", element="place")),
    "not checked": run_with("<w:noProof/>"),
    "nearer letters": run_with('<w:kern w:val="16"/>'),
    "no emphasis, said": run_with('<w:strike w:val="0"/><w:vanish w:val="false"/>'),
    "more room": paragraph_with('<w:spacing w:before="120" w:after="200"/>'),
    "kept together": paragraph_with("<w:keepLines/><w:widowControl/>"),
    "no hyphens": paragraph_with("<w:suppressAutoHyphens/>"),
    "a tab stop": paragraph_with('<w:tabs><w:tab w:val="left" w:pos="720"/></w:tabs>'),
    "a row not cut": row_with("<w:cantSplit/>"),
    "a wider cell": cell_with('<w:tcW w:w="3000" w:type="dxa"/>'),
    "words in the middle of a cell's height": cell_with('<w:vAlign w:val="center"/>'),
    "a fixed table": table_with('<w:tblLayout w:type="fixed"/>'),
    "lines between columns": table_with('<w:tblBorders><w:insideV w:val="single" w:sz="4" w:color="808080"/></w:tblBorders>'),
    "wider margins": lambda text: text.section().find(w("pgMar")).set(w("left"), "1800"),
    "settings": lambda text: text.settings('<w:zoom w:percent="120"/><w:defaultTabStop w:val="720"/><w:characterSpacingControl w:val="doNotCompress"/>'),
    "a font table": lambda text: text.add("word/fontTable.xml", f'<w:fonts xmlns:w="{W}"><w:font w:name="Georgia"/></w:fonts>'.encode(), KIND % "fontTable", R + "/fontTable"),
    "a theme": lambda text: text.add("word/theme/theme1.xml", f'<a:theme xmlns:a="{A}" name="Own"/>'.encode(), "application/vnd.openxmlformats-officedocument.theme+xml", R + "/theme"),
    "settings of the web": lambda text: text.add("word/webSettings.xml", f'<w:webSettings xmlns:w="{W}"/>'.encode(), KIND % "webSettings", R + "/webSettings"),
    "a style that nobody uses": lambda text: [text.xml("word/styles.xml").append(x) for x in made('<w:style w:type="paragraph" w:styleId="Own"><w:name w:val="Own"/><w:rPr><w:vanish/></w:rPr></w:style>')],
    "comments of a reader": lambda text: (text.add("word/comments.xml", f'<w:comments xmlns:w="{W}"><w:comment w:id="1" w:author="A"><w:p><w:r><w:t>seen</w:t></w:r></w:p></w:comment></w:comments>'.encode(), KIND % "comments", R + "/comments"), into_paragraph('<w:commentRangeStart w:id="1"/><w:commentRangeEnd w:id="1"/><w:r><w:commentReference w:id="1"/></w:r>')(text)),
    "numbers of pictures": picture(lambda text, one: one.find(f".//{{{WP}}}docPr").set("id", "77")),
    "a picture not to be turned": picture(lambda text, one: one.find(f".//{{{WP}}}docPr").addnext(made('<wp:cNvGraphicFramePr><a:graphicFrameLocks noChangeAspect="1"/></wp:cNvGraphicFramePr>')[0])),
    "a picture compressed for print": picture(lambda text, one: one.find(f".//{{{A}}}blip").set("cstate", "print")),
}

told(write("docx", Text, FAULTS, SAME))
