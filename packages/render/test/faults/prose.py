"""Spoils copies of a text, and re-writes them without harm, by code that shares nothing with ours.

Takes copies in this folder (a.html, a.txt, a.odt, a.docx, a.epub), a seed and how often; writes fault-*.ext and same-*.ext, and
prints their names. Packages are opened by the standard library, their parts by lxml; whole documents are saved again by odfpy,
python-docx and html5lib.
"""
import copy
import io
import json
import random
import re
import sys
import zipfile

from lxml import etree
from PIL import Image

SEED, EACH = int(sys.argv[1]), int(sys.argv[2])
names = []
W = "http://schemas.openxmlformats.org/wordprocessingml/2006/main"  # term-guard: standard (ECMA-376-1, 17)
A = "http://schemas.openxmlformats.org/drawingml/2006/main"  # term-guard: standard (ECMA-376-1, 20)
WP = "http://schemas.openxmlformats.org/drawingml/2006/wordprocessingDrawing"  # term-guard: standard (ECMA-376-1, 20.4)
R = "http://schemas.openxmlformats.org/officeDocument/2006/relationships"  # term-guard: standard (ECMA-376-1, 9.2)
OASIS = "urn:oasis:names:tc:opendocument:xmlns:"
TEXT, STYLE, TABLE, DRAW, OFFICE = (f"{OASIS}{x}:1.0" for x in ("text", "style", "table", "drawing", "office"))
FO, SVG = f"{OASIS}xsl-fo-compatible:1.0", f"{OASIS}svg-compatible:1.0"
XLINK = "http://www.w3.org/1999/xlink"
H = "http://www.w3.org/1999/xhtml"
XML_SPACE = "{http://www.w3.org/XML/1998/namespace}space"


def put(kind, name, ext, data, number=0):
    path = f"{kind}-{name}-{number}.{ext}"
    with open(path, "wb") as out:
        out.write(data if isinstance(data, bytes) else data.encode("utf-8"))
    names.append(path)


def picture_of(width, height, tone):
    out = io.BytesIO()
    Image.new("RGB", (width, height), tone).save(out, "PNG")
    return out.getvalue()


# Wordings.

def swap_word(text, dice):
    words = re.findall(r"[A-Za-z]{4,}", text)
    return text.replace(dice.choice(words), "marsh", 1) if words else None


def drop_word(text, dice):
    words = re.findall(r" [A-Za-z]{3,}(?= )", text)
    return text.replace(dice.choice(words), "", 1) if words else None


def add_word(text, dice):
    gaps = [m.start() for m in re.finditer(r"(?<=[a-z]) (?=[a-z])", text)]
    if not gaps:
        return None
    at = dice.choice(gaps)
    return f"{text[:at]} not{text[at:]}"


def other_digit(text, dice):
    digits = [m.start() for m in re.finditer(r"\d", text)]
    if not digits:
        return None
    at = dice.choice(digits)
    return text[:at] + str((int(text[at]) + 3) % 10) + text[at + 1:]


def other_case(text, dice):
    letters = [m.start() for m in re.finditer(r"[a-z]", text)]
    at = dice.choice(letters) if letters else None
    return None if at is None else text[:at] + text[at].upper() + text[at + 1:]


def drop_sign(text, dice):
    signs = [m.start() for m in re.finditer(r"[,;.:](?=\s|$)", text)]
    at = dice.choice(signs) if signs else None
    return None if at is None else text[:at] + text[at + 1:]


def join_words(text, dice):
    gaps = [m.start() for m in re.finditer(r"(?<=[a-z]) (?=[a-z])", text)]
    at = dice.choice(gaps) if gaps else None
    return None if at is None else text[:at] + text[at + 1:]


def turn_letters(text, dice):
    pairs = [m.start() for m in re.finditer(r"[a-z]{2}", text) if text[m.start()] != text[m.start() + 1]]
    at = dice.choice(pairs) if pairs else None
    return None if at is None else text[:at] + text[at + 1] + text[at] + text[at + 2:]


WORDINGS = {f.__name__.replace("_", "-"): f for f in (swap_word, drop_word, add_word, other_digit, other_case, drop_sign, join_words, turn_letters)}


# Packages.

class Package:
    """A zip with parts of XML, opened anew for every change."""

    def __init__(self, path, main):
        with zipfile.ZipFile(path) as z:
            self.parts = {i.filename: z.read(i) for i in z.infolist()}
        self.main = main
        self.root = etree.fromstring(self.parts[main])

    def xml(self, name):
        return etree.fromstring(self.parts[name])

    def set(self, name, root):
        self.parts[name] = etree.tostring(root, xml_declaration=True, encoding="UTF-8", standalone=True)

    def bytes(self, order=None, level=6, kind=zipfile.ZIP_DEFLATED):
        self.set(self.main, self.root)
        out = io.BytesIO()
        with zipfile.ZipFile(out, "w", kind, compresslevel=level) as z:
            for name in order or self.parts:
                z.writestr(name, self.parts[name], zipfile.ZIP_STORED if name == "mimetype" else kind)
        return out.getvalue()


def package_changes(ext, opened, faults, harmless):
    """Applies each change to a package of its own; what finds nothing to change does nothing and is left out."""
    for kind, table in (("fault", faults), ("same", harmless)):
        for name, change in table.items():
            done = set()
            for number in range(EACH):
                dice = random.Random(f"{SEED} {ext} {name} {number}")
                package = opened()
                made = change(package, dice)
                if made is None or made is False:
                    continue
                data = made if isinstance(made, bytes) else package.bytes()
                if data in done:
                    continue
                done.add(data)
                put(kind, name, ext, data, number)


def wordings_of(nodes_of):
    def make(rewrite):
        def change(package, dice):
            nodes = [n for n in nodes_of(package) if n.text and n.text.strip()]
            dice.shuffle(nodes)
            for node in nodes:
                text = rewrite(node.text, dice)
                if text is not None and text != node.text:
                    node.text = text
                    return True
            return None
        return change
    return {name: make(rewrite) for name, rewrite in WORDINGS.items()}


def one(nodes, dice):
    nodes = list(nodes)
    return dice.choice(nodes) if nodes else None


def remove(node):
    """Takes an element out and keeps what stands behind it."""
    parent = node.getparent()
    before = node.getprevious()
    if node.tail:
        if before is not None:
            before.tail = (before.tail or "") + node.tail
        else:
            parent.text = (parent.text or "") + node.tail
    parent.remove(node)


def swap(a, b):
    """Two elements change places; what stands behind each stays."""
    tails = a.tail, b.tail
    pa, ia = a.getparent(), a.getparent().index(a)
    marker = etree.Comment("x")
    pa.replace(a, marker)
    b.getparent().replace(b, a)
    marker.getparent().replace(marker, b)
    b.tail, a.tail = tails
    return ia


# DOCX.

def w(name):
    return f"{{{W}}}{name}"


def docx_faults():
    def texts(p):
        return p.root.iter(w("t"))

    def paragraphs(p, filled=True):
        body = p.root.find(w("body"))
        return [x for x in body.findall(w("p")) if not filled or "".join(x.itertext()).strip()]

    def style_of(x):
        found = x.find(f"{w('pPr')}/{w('pStyle')}")
        return found.get(w("val")) if found is not None else ""

    def drop_paragraph(p, dice):
        remove(one(paragraphs(p), dice))
        return True

    def double_paragraph(p, dice):
        x = one(paragraphs(p), dice)
        x.addnext(copy.deepcopy(x))
        return True

    def move_paragraph(p, dice):
        all_ = paragraphs(p)
        x = dice.choice(all_[:6])
        all_[-1].addnext(x)
        return True

    def swap_paragraphs(p, dice):
        all_ = [x for x in paragraphs(p) if style_of(x) == ""]
        a, b = dice.sample(all_, 2)
        swap(a, b)
        return True

    def set_style(wanted, to):
        def change(p, dice):
            x = one((x for x in paragraphs(p) if re.match(wanted, style_of(x))), dice)
            if x is None:
                return None
            properties = x.find(w("pPr"))
            if properties is None:
                properties = etree.Element(w("pPr"))
                x.insert(0, properties)
            found = properties.find(w("pStyle"))
            if found is None:
                found = etree.Element(w("pStyle"))
                properties.insert(0, found)
            found.set(w("val"), to)
            return True
        return change

    def add_property(xml_of):
        def change(p, dice):
            run = one((r for r in p.root.iter(w("r")) if r.find(w("t")) is not None and "".join(r.itertext()).strip()), dice)
            properties = run.find(w("rPr"))
            if properties is None:
                properties = etree.Element(w("rPr"))
                run.insert(0, properties)
            if properties.find(w(xml_of[0])) is not None:
                return None
            made = etree.SubElement(properties, w(xml_of[0]))
            for key, value in xml_of[1].items():
                made.set(w(key), value)
            return True
        return change

    def drop_property(name):
        def change(p, dice):
            found = one((x for x in p.root.iter(w(name)) if x.getparent().tag == w("rPr") and x.get(w("val")) != "FootnoteReference"), dice)
            if found is None:
                return None
            remove(found)
            return True
        return change

    def drop_link(p, dice):
        found = one(p.root.iter(w("hyperlink")), dice)
        at = found
        for child in list(found):
            at.addnext(child)
            at = child
        remove(found)
        return True

    def other_link(p, dice):
        name = "word/_rels/document.xml.rels"
        p.parts[name] = p.parts[name].replace(b"fen.example/map", b"fen.example/mop")
        return True

    def note_word(p, dice):
        name = "word/footnotes.xml"
        root = p.xml(name)
        node = one((t for t in root.iter(w("t")) if t.text and "mornings" in t.text), dice)
        node.text = node.text.replace("forty", "fourteen")
        p.set(name, root)
        return True

    def drop_note(p, dice):
        remove(one(p.root.iter(w("footnoteReference")), dice).getparent())
        return True

    def rows(p):
        return [r for t in p.root.iter(w("tbl")) for r in t.findall(w("tr"))]

    def drop_row(p, dice):
        remove(dice.choice(rows(p)[1:]))
        return True

    def swap_rows(p, dice):
        a, b = dice.sample(rows(p)[1:], 2)
        swap(a, b)
        return True

    def drop_column(p, dice):
        at = dice.randrange(3)
        for row in rows(p):
            remove(row.findall(w("tc"))[at])
        return True

    def swap_cells(p, dice):
        row = dice.choice(rows(p)[1:])
        a, b = row.findall(w("tc"))[1:]
        swap(a, b)
        return True

    def drop_head(p, dice):
        remove(one(p.root.iter(w("tblHeader")), dice))
        return True

    def other_picture(p, dice):
        name = dice.choice([n for n in p.parts if n.startswith("word/media/")])
        p.parts[name] = picture_of(48, 32, (200, 30, 30))
        return True

    def drop_picture(p, dice):
        remove(one(p.root.iter(w("drawing")), dice))
        return True

    def other_alt(p, dice):
        found = one((x for x in p.root.iter(f"{{{WP}}}docPr") if x.get("descr")), dice)
        found.set("descr", "A stork on one leg")
        return True

    def other_size(p, dice):
        found = one(p.root.iter(f"{{{WP}}}extent"), dice)
        found.set("cx", str(int(int(found.get("cx")) * 1.2)))
        return True

    def of_picture(part, **said):
        """Attributes of a part of a picture (ECMA-376-1, 20.1)."""
        def change(p, dice):
            found = one(p.root.iter(f"{{{A}}}{part}"), dice)
            for name, value in said.items():
                found.set(name, value)
            return True
        return change

    def in_picture(part, name, **said):
        def change(p, dice):
            made = etree.SubElement(one(p.root.iter(f"{{{A}}}{part}"), dice), f"{{{A}}}{name}")
            for key, value in said.items():
                made.set(key, value)
            return True
        return change

    def stretched(p, dice):
        for name in (f"{{{WP}}}extent", f"{{{A}}}ext"):
            for found in p.root.iter(name):
                if found.get("cy"):
                    found.set("cy", str(int(int(found.get("cy")) * 1.3)))
        return True

    def hidden_picture(p, dice):
        one(p.root.iter(f"{{{WP}}}docPr"), dice).set("hidden", "1")
        return True

    def of_row(name):
        def change(p, dice):
            row = dice.choice(rows(p))
            properties = row.find(w("trPr"))
            if properties is None:
                properties = etree.Element(w("trPr"))
                row.insert(0, properties)
            made = etree.SubElement(properties, w(name))
            if name == "trHeight":
                made.set(w("val"), "1")
                made.set(w("hRule"), "exact")
            return True
        return change

    def of_table(p, dice):
        etree.SubElement(one(p.root.iter(w("tblPr")), dice), w("bidiVisual"))
        return True

    def of_end(name):
        """The mark at the end of a paragraph (17.3.1.29)."""
        def change(p, dice):
            x = one(paragraphs(p), dice)
            properties = x.find(w("pPr"))
            if properties is None:
                properties = etree.Element(w("pPr"))
                x.insert(0, properties)
            etree.SubElement(etree.SubElement(properties, w("rPr")), w(name))
            return True
        return change

    def of_style(ident, name, **said):
        def change(p, dice):
            root = p.xml("word/styles.xml")
            if ident:
                style = next(x for x in root.iter(w("style")) if x.get(w("styleId")) == ident)
            else:
                style = root.find(f"{w('docDefaults')}/{w('rPrDefault')}")
            run = style.find(w("rPr"))
            if run is None:
                run = etree.SubElement(style, w("rPr"))
            for before in run.findall(w(name)):
                run.remove(before)
            made = etree.SubElement(run, w(name))
            for key, value in said.items():
                made.set(w(key), value)
            p.set("word/styles.xml", root)
            return True
        return change

    def other_number(p, dice):
        root = p.xml("word/numbering.xml")
        for text in root.iter(w("lvlText")):
            if "%" in text.get(w("val")):
                text.set(w("val"), "§ " + text.get(w("val")))
        p.set("word/numbering.xml", root)
        return True

    def align(p, dice):
        found = one(p.root.iter(w("jc")), dice)
        found.set(w("val"), "left" if found.get(w("val")) != "left" else "right")
        return True

    def list_level(p, dice):
        found = one((x for x in p.root.iter(w("ilvl")) if x.get(w("val")) == "1"), dice)
        found.set(w("val"), "0")
        return True

    def list_kind(p, dice):
        found = one((x for x in p.root.iter(w("numId")) if x.get(w("val")) == "1"), dice)
        found.set(w("val"), "2")
        return True

    def list_start(p, dice):
        root = p.xml("word/numbering.xml")
        found = one(root.iter(w("startOverride")), dice)
        found.set(w("val"), "4")
        p.set("word/numbering.xml", root)
        return True

    def no_list(p, dice):
        remove(one((x for x in p.root.iter(w("numPr"))), dice))
        return True

    def language(p, dice):
        p.parts["word/styles.xml"] = p.parts["word/styles.xml"].replace(b'w:lang w:val="en-GB"', b'w:lang w:val="en-US"')
        return True

    def title(p, dice):
        p.parts["docProps/core.xml"] = p.parts["docProps/core.xml"].replace(b">Round the fen<", b">Round the moor<")
        return True

    def drop_break(p, dice):
        remove(one(p.root.iter(w("br")), dice))
        return True

    def add_page(p, dice):
        x = one(paragraphs(p), dice)
        made = etree.Element(w("p"))
        br = etree.SubElement(etree.SubElement(made, w("r")), w("br"))
        br.set(w("type"), "page")
        x.addnext(made)
        return True

    def struck_out(p, dice):
        run = one((r for r in p.root.iter(w("r")) if r.find(w("t")) is not None), dice)
        made = etree.Element(w("del"))
        run.getparent().replace(run, made)
        made.append(run)
        for t in run.iter(w("t")):
            t.tag = w("delText")
        return True

    def box_of_words(p, dice):
        x = one(paragraphs(p), dice)
        run = etree.SubElement(x, w("r"))
        pict = etree.SubElement(run, w("pict"))
        box = etree.SubElement(pict, w("txbxContent"))
        t = etree.SubElement(etree.SubElement(etree.SubElement(box, w("p")), w("r")), w("t"))
        t.text = "Closed on Mondays"
        return True

    def join_paragraphs(p, dice):
        all_ = [x for x in paragraphs(p) if style_of(x) == ""]
        a = dice.choice(all_[:-1])
        b = a.getnext()
        if b is None or b.tag != w("p") or style_of(b) != "" or not "".join(b.itertext()).strip():
            a, b = all_[0], all_[1]
        for child in list(b):
            if child.tag != w("pPr"):
                a.append(child)
        remove(b)
        return True

    faults = wordings_of(texts)
    faults.update({
        "drop-paragraph": drop_paragraph, "double-paragraph": double_paragraph, "move-paragraph": move_paragraph,
        "swap-paragraphs": swap_paragraphs, "join-paragraphs": join_paragraphs,
        "heading-level": set_style("Heading2", "Heading3"), "no-heading": set_style("Heading", "Item"),
        "new-heading": set_style("$", "Heading2"), "no-quote": set_style("Quote", "Cell"), "new-quote": set_style("$", "Quote"),
        "new-bold": add_property(("b", {})), "new-italic": add_property(("i", {})), "new-strike": add_property(("strike", {})),
        "hidden": add_property(("vanish", {})), "white": add_property(("color", {"val": "FFFFFF"})),
        "small": add_property(("sz", {"val": "8"})), "capitals": add_property(("caps", {})), "marked": add_property(("highlight", {"val": "yellow"})),
        "raised": add_property(("vertAlign", {"val": "superscript"})),
        "no-bold": drop_property("b"), "no-italic": drop_property("i"), "no-shift": drop_property("vertAlign"), "no-underline": drop_property("u"),
        "no-strike": drop_property("strike"), "no-code": drop_property("rStyle"),
        "drop-link": drop_link, "other-link": other_link, "note-word": note_word, "drop-note": drop_note,
        "drop-row": drop_row, "swap-rows": swap_rows, "drop-column": drop_column, "swap-cells": swap_cells, "drop-head": drop_head,
        "other-picture": other_picture, "drop-picture": drop_picture, "other-alt": other_alt, "other-size": other_size,
        "align": align, "list-level": list_level, "list-kind": list_kind, "list-start": list_start, "no-list": no_list,
        "language": language, "title": title, "drop-break": drop_break, "add-page": add_page, "struck-out": struck_out,
        "box": box_of_words,
        "turned-picture": of_picture("xfrm", rot="5400000"), "mirrored-picture": of_picture("xfrm", flipH="1"),
        "upside-down-picture": of_picture("xfrm", flipV="true"), "shaped-picture": of_picture("prstGeom", prst="ellipse"),
        "shrunk-picture": of_picture("fillRect", l="30000", r="30000"), "stretched-picture": stretched,
        "hidden-picture": hidden_picture, "grey-picture": in_picture("blip", "grayscl"),
        "pale-picture": in_picture("blip", "alphaModFix", amt="20000"), "bright-picture": in_picture("blip", "lum", bright="60000"),
        "cropped-picture": in_picture("blip", "clrChange"),
        "row-deleted": of_row("del"), "row-inserted": of_row("ins"), "row-without-height": of_row("trHeight"), "row-hidden": of_row("hidden"),
        "table-turned": of_table, "end-deleted": of_end("del"), "end-hidden": of_end("vanish"),
        "hidden-style": of_style("Heading2", "vanish"), "capital-style": of_style("Quote", "caps"), "white-style": of_style("Heading1", "color", val="FFFFFF"),
        "tiny-style": of_style("Heading2", "sz", val="2"), "capital-default": of_style("", "caps"), "struck-style": of_style("Heading2", "strike"),
        "other-numbers": other_number,
    })
    return faults


def docx_harmless():
    def saved(p, dice):
        import docx
        document = docx.Document(io.BytesIO(p.bytes()))
        out = io.BytesIO()
        document.save(out)
        return out.getvalue()

    def packed(p, dice):
        order = list(p.parts)
        tail = order[1:]
        dice.shuffle(tail)
        return p.bytes([order[0], *tail], 9)

    def unpacked(p, dice):
        return p.bytes(kind=zipfile.ZIP_STORED)

    def split_runs(p, dice):
        for run in list(p.root.iter(w("r"))):
            t = run.find(w("t"))
            if t is None or not t.text or len(run.findall(w("t"))) > 1 or len(t.text) < 4 or run.find(w("br")) is not None:
                continue
            at = dice.randrange(1, len(t.text))
            other = copy.deepcopy(run)
            other.find(w("t")).text = t.text[at:]
            other.find(w("t")).set(XML_SPACE, "preserve")
            t.text = t.text[:at]
            t.set(XML_SPACE, "preserve")
            run.addnext(other)
        return True

    def noted(p, dice):
        for i, x in enumerate(p.root.iter(w("p"))):
            x.set(w("rsidR"), f"00{i:06X}")
            mark = etree.Element(w("bookmarkStart"))
            mark.set(w("id"), str(i))
            mark.set(w("name"), f"place{i}")
            end = etree.Element(w("bookmarkEnd"))
            end.set(w("id"), str(i))
            x.append(mark)
            x.append(end)
            x.append(etree.Element(w("proofErr")))
        return True

    def empty_paragraphs(p, dice):
        body = p.root.find(w("body"))
        for x in dice.sample(body.findall(w("p")), 3):
            if x.getprevious() is None or x.getprevious().tag != w("tbl"):
                x.addnext(etree.Element(w("p")))
                return True
        return None

    def explicit(p, dice):
        for run in p.root.iter(w("r")):
            properties = run.find(w("rPr"))
            if properties is None:
                properties = etree.Element(w("rPr"))
                run.insert(0, properties)
            lang = etree.SubElement(properties, w("lang"))
            lang.set(w("val"), "en-GB")
            etree.SubElement(properties, w("noProof"))
        return True

    def prefix(p, dice):
        text = etree.tostring(p.root).decode("utf-8")
        text = re.sub(r"(</?|\s)w:", r"\1q:", text).replace("xmlns:w=", "xmlns:q=")
        p.root = etree.fromstring(text.encode("utf-8"))
        return True

    def picture_again(p, dice):
        for name in list(p.parts):
            if name.startswith("word/media/"):
                out = io.BytesIO()
                Image.open(io.BytesIO(p.parts[name])).save(out, "PNG", optimize=True)
                p.parts[name] = out.getvalue()
        return True

    def onwards(p, dice):
        p.parts["docProps/app.xml"] = b'<Properties xmlns="http://schemas.openxmlformats.org/officeDocument/2006/extended-properties"><Pages>2</Pages></Properties>'
        return True

    def content_control(p, dice):
        body = p.root.find(w("body"))
        x = dice.choice(body.findall(w("p")))
        sdt = etree.Element(w("sdt"))
        x.getparent().replace(x, sdt)
        etree.SubElement(sdt, w("sdtPr"))
        etree.SubElement(sdt, w("sdtContent")).append(x)
        return True

    return {"saved": saved, "packed": packed, "unpacked": unpacked, "split-runs": split_runs, "noted": noted, "empty": empty_paragraphs,
            "explicit": explicit, "prefix": prefix, "picture-again": picture_again, "onwards": onwards, "control": content_control}


# ODT.

def t(name):
    return f"{{{TEXT}}}{name}"


def odt_faults():
    def body(p):
        return p.root.find(f"{{{OFFICE}}}body/{{{OFFICE}}}text")

    def texts(p):
        return (x for x in body(p).iter() if x.tag in (t("p"), t("h"), t("span"), t("a")))

    def paragraphs(p):
        return [x for x in body(p) if x.tag in (t("p"), t("h")) and "".join(x.itertext()).strip()]

    def drop_paragraph(p, dice):
        remove(one(paragraphs(p), dice))
        return True

    def double_paragraph(p, dice):
        x = one(paragraphs(p), dice)
        x.addnext(copy.deepcopy(x))
        return True

    def move_paragraph(p, dice):
        all_ = paragraphs(p)
        all_[-1].addnext(dice.choice(all_[:5]))
        return True

    def heading_level(p, dice):
        x = one(p.root.iter(t("h")), dice)
        x.set(t("outline-level"), str(int(x.get(t("outline-level"))) % 6 + 1))
        return True

    def no_heading(p, dice):
        x = one(p.root.iter(t("h")), dice)
        x.tag = t("p")
        x.set(t("style-name"), "Body")
        return True

    def new_heading(p, dice):
        x = one((x for x in paragraphs(p) if x.tag == t("p") and x.get(t("style-name")) == "Body"), dice)
        x.tag = t("h")
        x.set(t("outline-level"), "2")
        return True

    def style(of, to):
        def change(p, dice):
            x = one((x for x in paragraphs(p) if x.get(t("style-name")) == of), dice)
            if x is None:
                return None
            x.set(t("style-name"), to)
            return True
        return change

    def new_look(properties):
        def change(p, dice):
            styles = p.root.find(f"{{{OFFICE}}}automatic-styles")
            made = etree.SubElement(styles, f"{{{STYLE}}}style")
            made.set(f"{{{STYLE}}}name", "X1")
            made.set(f"{{{STYLE}}}family", "text")
            own = etree.SubElement(made, f"{{{STYLE}}}text-properties")
            for (space, key), value in properties.items():
                own.set(f"{{{space}}}{key}", value)
            x = one((x for x in paragraphs(p) if x.text and len(x.text.strip()) > 5), dice)
            span = etree.Element(t("span"))
            span.set(t("style-name"), "X1")
            span.text, x.text = x.text, None
            x.insert(0, span)
            return True
        return change

    def no_look(p, dice):
        span = one((x for x in body(p).iter(t("span")) if x.text), dice)
        span.attrib.pop(t("style-name"))
        return True

    def other_look(p, dice):
        found = one((x for x in p.root.iter(f"{{{STYLE}}}text-properties") if not x.get(f"{{{STYLE}}}text-line-through-style")), dice)
        for key in list(found.attrib):
            del found.attrib[key]
        found.set(f"{{{STYLE}}}text-line-through-style", "solid")
        return True

    def other_link(p, dice):
        x = one(p.root.iter(t("a")), dice)
        x.set(f"{{{XLINK}}}href", "https://fen.example/other")
        return True

    def drop_link(p, dice):
        x = one(p.root.iter(t("a")), dice)
        x.tag = t("span")
        for key in list(x.attrib):
            del x.attrib[key]
        return True

    def note_word(p, dice):
        x = next(p.root.iter(t("note-body"))).find(t("p"))
        x.text = x.text.replace("forty", "fourteen")
        return True

    def drop_note(p, dice):
        remove(one(p.root.iter(t("note")), dice))
        return True

    def rows(p):
        return list(p.root.iter(f"{{{TABLE}}}table-row"))

    def drop_row(p, dice):
        remove(dice.choice(rows(p)[1:]))
        return True

    def swap_rows(p, dice):
        a, b = dice.sample(rows(p)[1:], 2)
        swap(a, b)
        return True

    def drop_column(p, dice):
        at = dice.randrange(3)
        for row in rows(p):
            remove(row[at])
        return True

    def swap_cells(p, dice):
        row = dice.choice(rows(p)[1:])
        swap(row[1], row[2])
        return True

    def drop_head(p, dice):
        head = next(p.root.iter(f"{{{TABLE}}}table-header-rows"))
        head.addnext(head[0])
        remove(head)
        return True

    def hidden_row(p, dice):
        dice.choice(rows(p)[1:]).set(f"{{{TABLE}}}visibility", "collapse")
        return True

    def other_picture(p, dice):
        name = dice.choice([n for n in p.parts if n.startswith("Pictures/")])
        p.parts[name] = picture_of(48, 32, (20, 120, 30))
        return True

    def drop_picture(p, dice):
        remove(one(p.root.iter(f"{{{DRAW}}}frame"), dice))
        return True

    def other_alt(p, dice):
        one(p.root.iter(f"{{{SVG}}}desc"), dice).text = "A stork"
        return True

    def other_size(p, dice):
        x = one(p.root.iter(f"{{{DRAW}}}frame"), dice)
        x.set(f"{{{SVG}}}width", f"{float(x.get(f'{{{SVG}}}width')[:-2]) * 0.8}mm")
        return True

    def of_frame(space, name, value):
        """A property of the style of a picture's frame (ODF 1.3-3, 20)."""
        def change(p, dice):
            made = p.root.find(f"{{{OFFICE}}}automatic-styles")
            if made is None:
                made = etree.Element(f"{{{OFFICE}}}automatic-styles")
                p.root.insert(0, made)
            style = etree.SubElement(made, f"{{{STYLE}}}style")
            style.set(f"{{{STYLE}}}name", "Own frame")
            style.set(f"{{{STYLE}}}family", "graphic")
            etree.SubElement(style, f"{{{STYLE}}}graphic-properties").set(f"{{{space}}}{name}", value)
            one(p.root.iter(f"{{{DRAW}}}frame"), dice).set(f"{{{DRAW}}}style-name", "Own frame")
            return True
        return change

    def turned_picture(p, dice):
        one(p.root.iter(f"{{{DRAW}}}frame"), dice).set(f"{{{DRAW}}}transform", "rotate(0.5)")
        return True

    def stretched_picture(p, dice):
        x = one(p.root.iter(f"{{{DRAW}}}frame"), dice)
        x.set(f"{{{SVG}}}height", f"{float(x.get(f'{{{SVG}}}height')[:-2]) * 1.4}mm")
        return True

    def hidden_column(p, dice):
        one(p.root.iter(f"{{{TABLE}}}table-column"), dice).set(f"{{{TABLE}}}visibility", "collapse")
        return True

    def linked_section(p, dice):
        x = one(paragraphs(p), dice)
        section = etree.Element(t("section"))
        section.set(t("name"), "Linked")
        x.getparent().replace(x, section)
        etree.SubElement(section, t("section-source")).set(f"{{{XLINK}}}href", "../other.odt")
        section.append(x)
        return True

    def align(p, dice):
        x = one((x for x in p.root.iter(f"{{{STYLE}}}paragraph-properties") if x.get(f"{{{FO}}}text-align")), dice)
        x.set(f"{{{FO}}}text-align", "start")
        return True

    def list_kind(p, dice):
        x = one(p.root.iter(t("list")), dice)
        x.set(t("style-name"), "Numbers" if x.get(t("style-name")) == "Signs" else "Signs")
        return True

    def list_start(p, dice):
        lists = [x for x in p.root.iter(t("list")) if x.get(t("style-name")) == "Numbers"]
        dice.choice(lists)[0].set(t("start-value"), "3")
        return True

    def drop_item(p, dice):
        remove(one(p.root.iter(t("list-item")), dice))
        return True

    def no_list(p, dice):
        found = dice.choice([x for x in body(p) if x.tag == t("list")])
        at = found
        for x in list(found.iter(t("p"))):
            at.addnext(x)
            at = x
        remove(found)
        return True

    def language(p, dice):
        p.parts["styles.xml"] = p.parts["styles.xml"].replace(b'fo:country="GB"', b'fo:country="US"')
        return True

    def title(p, dice):
        p.parts["meta.xml"] = p.parts["meta.xml"].replace(b">Round the fen<", b">Round the moor<")
        return True

    def drop_break(p, dice):
        remove(one((x for x in body(p) if x.get(t("style-name")) in ("NewPage", "Across")), dice))
        return True

    def line_break(p, dice):
        remove(one(p.root.iter(t("line-break")), dice))
        return True

    def hidden_section(p, dice):
        x = one(paragraphs(p), dice)
        made = etree.Element(t("section"))
        made.set(t("name"), "s")
        made.set(t("display"), "none")
        x.getparent().replace(x, made)
        made.append(x)
        return True

    def box_of_words(p, dice):
        x = one(paragraphs(p), dice)
        frame = etree.SubElement(x, f"{{{DRAW}}}frame")
        inner = etree.SubElement(frame, f"{{{DRAW}}}text-box")
        etree.SubElement(inner, t("p")).text = "Closed on Mondays"
        return True

    bold = {(FO, "font-weight"): "bold"}
    faults = wordings_of(texts)
    faults.update({
        "drop-paragraph": drop_paragraph, "double-paragraph": double_paragraph, "move-paragraph": move_paragraph,
        "heading-level": heading_level, "no-heading": no_heading, "new-heading": new_heading,
        "new-quote": style("Body", "Quote"), "new-bold": new_look(bold), "new-italic": new_look({(FO, "font-style"): "italic"}),
        "hidden": new_look({(TEXT, "display"): "none"}), "white": new_look({(FO, "color"): "#ffffff"}),
        "large": new_look({(FO, "font-size"): "30pt"}), "capitals": new_look({(FO, "text-transform"): "uppercase"}),
        "struck": new_look({(STYLE, "text-line-through-style"): "solid"}), "raised": new_look({(STYLE, "text-position"): "super 58%"}),
        "no-look": no_look, "other-look": other_look, "other-link": other_link, "drop-link": drop_link,
        "note-word": note_word, "drop-note": drop_note, "drop-row": drop_row, "swap-rows": swap_rows, "drop-column": drop_column,
        "swap-cells": swap_cells, "drop-head": drop_head, "hidden-row": hidden_row, "other-picture": other_picture,
        "mirrored-picture": of_frame(STYLE, "mirror", "horizontal"), "cropped-picture": of_frame(FO, "clip", "rect(2mm, 2mm, 0mm, 0mm)"),
        "pale-picture": of_frame(DRAW, "image-opacity", "20%"), "grey-picture": of_frame(DRAW, "color-mode", "greyscale"),
        "dark-picture": of_frame(DRAW, "luminance", "-60%"), "turned-picture": turned_picture, "stretched-picture": stretched_picture,
        "hidden-column": hidden_column, "linked-section": linked_section,
        "drop-picture": drop_picture, "other-alt": other_alt, "other-size": other_size, "align": align, "list-kind": list_kind,
        "list-start": list_start, "drop-item": drop_item, "no-list": no_list, "language": language, "title": title,
        "drop-break": drop_break, "line-break": line_break, "hidden-section": hidden_section, "box": box_of_words,
    })
    return faults


def odt_harmless():
    def saved(p, dice):
        from odf.opendocument import load
        document = load(io.BytesIO(p.bytes()))
        out = io.BytesIO()
        document.write(out)
        return out.getvalue()

    def packed(p, dice):
        order = list(p.parts)
        tail = order[1:]
        dice.shuffle(tail)
        return p.bytes([order[0], *tail], 1)

    def split_spans(p, dice):
        for x in list(p.root.iter(t("span"))):
            if not x.text or len(x.text) < 2 or len(x):
                continue
            other = copy.deepcopy(x)
            at = dice.randrange(1, len(x.text))
            other.text, x.text = x.text[at:], x.text[:at]
            other.tail, x.tail = x.tail, None
            x.addnext(other)
        return True

    def renamed_styles(p, dice):
        text = etree.tostring(p.root).decode("utf-8")
        text = re.sub(r'(style-name="|style:name=")T(\d)', r"\1Look\2", text)
        p.root = etree.fromstring(text.encode("utf-8"))
        return True

    def noted(p, dice):
        for i, x in enumerate(list(p.root.iter(t("p")))):
            mark = etree.Element(t("bookmark"))
            mark.set(t("name"), f"place{i}")
            x.append(mark)
            x.append(etree.Element(t("soft-page-break")))
        return True

    def spaces(p, dice):
        done = False
        for x in p.root.iter(t("p"), t("h")):
            if x.text and " " in x.text.strip() and not done:
                before, after = x.text.split(" ", 1)
                made = etree.Element(t("s"))
                made.tail, x.text = after, before
                x.insert(0, made)
                done = True
            elif x.text:
                x.text = x.text.replace(" ", "\n   ", 1)
        return done

    def empty_paragraph(p, dice):
        text = p.root.find(f"{{{OFFICE}}}body/{{{OFFICE}}}text")
        made = etree.Element(t("p"))
        made.set(t("style-name"), "Body")
        dice.choice([x for x in text if x.tag == t("h")]).addnext(made)
        return True

    def settings(p, dice):
        p.parts["settings.xml"] = f'<office:document-settings xmlns:office="{OFFICE}" office:version="1.3"/>'.encode()
        return True

    def section(p, dice):
        text = p.root.find(f"{{{OFFICE}}}body/{{{OFFICE}}}text")
        made = etree.Element(t("section"))
        made.set(t("name"), "All")
        for x in list(text):
            made.append(x)
        text.append(made)
        return True

    def prefix(p, dice):
        text = etree.tostring(p.root).decode("utf-8")
        text = re.sub(r"(</?|\s)text:", r"\1words:", text).replace("xmlns:text=", "xmlns:words=")
        p.root = etree.fromstring(text.encode("utf-8"))
        return True

    def comment(p, dice):
        x = dice.choice(list(p.root.iter(t("p"))))
        x.append(etree.Comment("seen"))
        return True

    return {"saved": saved, "packed": packed, "split-spans": split_spans, "renamed-styles": renamed_styles, "noted": noted, "spaces": spaces,
            "empty": empty_paragraph, "settings": settings, "section": section, "prefix": prefix, "comment": comment}


# HTML and EPUB.

def h(name):
    return f"{{{H}}}{name}"


def page_faults(tag, body_of, pictures=None):
    """Changes of elements; `tag` spells their names, `body_of` finds what holds them."""
    def texts(p):
        # The sign that leads back from a note, and the number that leads to it, say nothing of their own.
        return (x for x in body_of(p).iter(*[tag(n) for n in ("p", "h1", "h2", "h3", "li", "td", "th", "strong", "em", "a", "code", "figcaption", "caption", "u", "s")])
                if x.get("role") is None and x.getparent().get("role") is None)

    def paragraphs(p):
        return [x for x in body_of(p).iter(tag("p"), tag("h1"), tag("h2"), tag("h3")) if "".join(x.itertext()).strip() and x.getparent().tag not in (tag("li"),)]

    def drop_paragraph(p, dice):
        remove(one(paragraphs(p), dice))
        return True

    def double_paragraph(p, dice):
        x = one((x for x in paragraphs(p) if not any(e.get("id") for e in x.iter())), dice)
        x.addnext(copy.deepcopy(x))
        return True

    def move_paragraph(p, dice):
        all_ = paragraphs(p)
        all_[-1].addnext(dice.choice(all_[:3]))
        return True

    def rename(of, to):
        def change(p, dice):
            x = one(body_of(p).iter(*[tag(n) for n in of]), dice)
            if x is None:
                return None
            x.tag = tag(to)
            return True
        return change

    def wrapped(name, attributes=None):
        def change(p, dice):
            x = one((x for x in paragraphs(p) if x.text and len(x.text.strip()) > 5), dice)
            made = etree.Element(tag(name))
            for key, value in (attributes or {}).items():
                made.set(key, value)
            made.text, x.text = x.text, None
            x.insert(0, made)
            return True
        return change

    def unwrapped(*of):
        def change(p, dice):
            x = one((x for x in body_of(p).iter(*[tag(n) for n in of]) if x.getparent().get("role") is None and x.get("role") is None), dice)
            if x is None:
                return None
            x.tag = tag("span")
            for key in list(x.attrib):
                del x.attrib[key]
            return True
        return change

    def styled(of, value):
        def change(p, dice):
            x = one((x for x in body_of(p).iter(*[tag(n) for n in of]) if "".join(x.itertext()).strip() and not x.get("style")), dice)
            x.set("style", value)
            return True
        return change

    def other_link(p, dice):
        x = one((x for x in body_of(p).iter(tag("a")) if x.get("role") is None), dice)
        x.set("href", "https://fen.example/other")
        return True

    def note_word(p, dice):
        x = one((x for x in body_of(p).iter(tag("li")) if (x.get("id") or "").endswith("note-1")), dice)
        x.text = x.text.replace("forty", "fourteen")
        return True

    def drop_note(p, dice):
        remove(one((x for x in body_of(p).iter(tag("a")) if x.get("role") == "doc-noteref"), dice))
        return True

    def rows(p):
        return list(body_of(p).iter(tag("tr")))

    def drop_row(p, dice):
        remove(dice.choice(rows(p)[1:]))
        return True

    def swap_rows(p, dice):
        a, b = dice.sample(rows(p)[1:], 2)
        swap(a, b)
        return True

    def drop_column(p, dice):
        at = dice.randrange(3)
        for row in rows(p):
            remove(row[at])
        return True

    def swap_cells(p, dice):
        row = dice.choice(rows(p)[1:])
        swap(row[1], row[2])
        return True

    def drop_head(p, dice):
        for x in rows(p)[0]:
            x.tag = tag("td")
        next(body_of(p).iter(tag("thead"))).tag = tag("tbody")
        return True

    def drop_picture(p, dice):
        remove(one(body_of(p).iter(tag("figure")), dice))
        return True

    def other_alt(p, dice):
        one((x for x in body_of(p).iter(tag("img")) if x.get("alt")), dice).set("alt", "A stork")
        return True

    def other_size(p, dice):
        one(body_of(p).iter(tag("img")), dice).set("style", "width:30mm")
        return True

    def list_start(p, dice):
        x = one((x for x in body_of(p).iter(tag("ol")) if x.getparent().tag != tag("section")), dice)
        x.set("start", "5")
        return True

    def drop_item(p, dice):
        remove(one((x for x in body_of(p).iter(tag("li")) if x.get("id") is None), dice))
        return True

    def language(p, dice):
        for x in p.root.iter():
            if isinstance(x.tag, str) and x.get("lang"):
                x.set("lang", "fr")
        return True

    def drop_line(p, dice):
        remove(one(body_of(p).iter(tag("hr")), dice))
        return True

    def drop_br(p, dice):
        remove(one(body_of(p).iter(tag("br")), dice))
        return True

    def element(name, text=""):
        def change(p, dice):
            x = one(paragraphs(p), dice)
            made = etree.Element(tag(name))
            made.text = text or None
            x.addnext(made)
            return True
        return change

    faults = wordings_of(texts)
    faults.update({
        "drop-paragraph": drop_paragraph, "double-paragraph": double_paragraph, "move-paragraph": move_paragraph,
        "heading-level": rename(["h2"], "h4"), "no-heading": rename(["h1", "h2", "h3"], "p"), "new-heading": rename(["p"], "h2"),
        "no-quote": rename(["blockquote"], "div"), "list-kind": rename(["ul"], "ol"),
        "new-bold": wrapped("b"), "new-italic": wrapped("i"), "new-link": wrapped("a", {"href": "https://fen.example/new"}),
        "raised": wrapped("sup"), "struck": wrapped("del"), "code": wrapped("kbd"),
        "no-emphasis": unwrapped("strong", "em", "code", "sub", "u", "s"), "drop-link": unwrapped("a"),
        "bold-style": styled(["p"], "font-weight:700"), "hidden": styled(["p", "h2", "td"], "display:none"),
        "see-through": styled(["p"], "opacity:0"), "white": styled(["p"], "color:#fff"), "align": styled(["p", "h2"], "text-align:right"),
        "hidden-too": styled(["p"], "visibility:hidden"), "other-link": other_link, "note-word": note_word, "drop-note": drop_note,
        "drop-row": drop_row, "swap-rows": swap_rows, "drop-column": drop_column, "swap-cells": swap_cells, "drop-head": drop_head,
        "drop-picture": drop_picture, "other-alt": other_alt, "other-size": other_size, "list-start": list_start, "drop-item": drop_item,
        "language": language, "drop-line": drop_line, "drop-br": drop_br, "canvas": element("canvas"), "script": element("script", "x()"),
        "new-list": element("ul"), "new-paragraph": element("p", "Closed on Mondays."),
    })
    faults.pop("new-list")
    return faults


class Page:
    """A page as html5lib reads it, written again by lxml."""

    def __init__(self, path):
        import html5lib
        with open(path, "rb") as file:
            self.source = file.read().decode("utf-8")
        self.root = html5lib.parse(self.source, treebuilder="lxml", namespaceHTMLElements=False).getroot()

    def bytes(self):
        return b"<!doctype html>\n" + etree.tostring(self.root, method="html", encoding="utf-8")


def html_changes():
    def body(p):
        return p.root.find(".//article")

    def text(pattern, to, flags=0):
        def change(p, dice):
            made = re.sub(pattern, to, p.source, flags=flags)
            return made.encode("utf-8") if made != p.source else None
        return change

    def other_picture(p, dice):
        import base64
        x = one(body(p).iter("img"), dice)
        x.set("src", "data:image/png;base64," + base64.b64encode(picture_of(48, 32, (9, 9, 200))).decode())
        return True

    def outside_picture(p, dice):
        one(body(p).iter("img"), dice).set("src", "https://elsewhere.example/x.png")
        return True

    faults = page_faults(lambda n: n, body)
    faults.update({
        "other-picture": other_picture, "outside-picture": outside_picture,
        "style-sheet": text("</style>", "p{text-decoration:line-through}</style>"),
        "second-sheet": text("</head>", "<style>li{display:none}</style></head>"),
        "white-sheet": text("</style>", "li{color:#fff}</style>"), "off-the-page": text("<p>", '<p style="margin-left:-9999px">'), "no-room": text("<img ", '<img style="width:0" '), "another-source": text("<img ", '<img srcset="https://elsewhere.example/y.png 2x" '),
        "hiding-sheet": text("</style>", "article:hover p{display:none}</style>"),
        "onload": text("<h1>", '<h1 onclick="x()">'),
        "name": text('aria-label="[^"]*"', 'aria-label="Round the moor"'),
    })

    def saved(p, dice):
        return p.bytes()

    def saved_xml(p, dice):
        return b"<!doctype html>\n" + etree.tostring(p.root, method="xml", encoding="utf-8")

    def noted(p, dice):
        for i, x in enumerate(body(p).iter("p", "li", "td")):
            x.set("class", f"c{i}")
            x.set("data-n", str(i))
        return True

    def wrapped(p, dice):
        article = body(p)
        made = etree.Element("div")
        for x in list(article):
            made.append(x)
        article.append(made)
        return True

    def references(p, dice):
        return "".join(f"&#{ord(c)};" if ord(c) > 127 else c for c in p.source).encode("ascii")

    def split(p, dice):
        for x in list(body(p).iter("strong", "em")):
            if x.text and len(x.text) > 2 and not len(x):
                other = copy.deepcopy(x)
                other.text, x.text = x.text[2:], x.text[:2]
                other.tail, x.tail = x.tail, None
                x.addnext(other)
        return True

    harmless = {
        "saved": saved, "saved-xml": saved_xml, "noted": noted, "wrapped": wrapped, "references": references, "split": split,
        "other-names": text(r"<(/?)strong>", r"<\1b>"), "other-names-too": text(r"<(/?)em>", r"<\1i>"),
        "sheet-of-colours": text("</style>", "h1,p{color:#123456;background:#fffdf0}a:hover{color:#900}</style>"),
        "comments": text("<p>", "<!-- seen --><p>"), "line-ends": text("\n", "\r\n"), "blanks": text("(?<=[a-z]) (?=[a-z])", "\n   "),
        "upper": text(r"<(/?)(p|li|h2|table|td|tr)\b", lambda m: f"<{m.group(1)}{m.group(2).upper()}"),
        "bom": text("^<!doctype", "\ufeff<!doctype"), "open-ends": text("</(p|li|td|tr)>", ""), "empty": text("</h2>", "</h2><p></p>"),
    }
    package_changes("html", lambda: Page("a.html"), faults, harmless)


def epub_changes():
    def opened():
        return Package("a.epub", "book/text-1.xhtml")

    def body(p):
        return p.root.find(h("body"))

    def other_picture(p, dice):
        name = dice.choice([n for n in p.parts if n.endswith(".png")])
        p.parts[name] = picture_of(48, 32, (9, 200, 200))
        return True

    def sheet(p, dice):
        p.parts["book/style.css"] += b"\np{display:none}"
        return True

    def sheet_by(words):
        def change(p, dice):
            p.parts["book/style.css"] += words
            return True
        return change

    def spine(p, dice):
        p.parts["book/package.opf"] = p.parts["book/package.opf"].replace(b"</spine>", b'<itemref idref="text-1"/></spine>')
        return True

    def title(p, dice):
        p.root.find(f"{h('head')}/{h('title')}").text = "Round the moor"
        return True

    faults = page_faults(h, body)
    def of_book(name, words):
        """What the package says of the whole book (EPUB 3.3, 5.5)."""
        def change(p, dice):
            part = next(n for n in p.parts if n.endswith(".opf"))
            root = p.xml(part)
            one(root.iter(f"{{http://purl.org/dc/elements/1.1/}}{name}"), dice).text = words
            p.set(part, root)
            return True
        return change

    faults.update({"other-picture": other_picture, "sheet": sheet, "white-sheet": sheet_by(b"\np{color:#fdfdfd}"), "spine": spine, "title": title,
                   "book-title": of_book("title", "Round the moor"), "book-language": of_book("language", "cy")})

    def packed(p, dice):
        order = list(p.parts)
        tail = order[1:]
        dice.shuffle(tail)
        return p.bytes([order[0], *tail], 9)

    def noted(p, dice):
        for i, x in enumerate(body(p).iter(h("p"), h("li"))):
            if x.get("id") is None:
                x.set("id", f"e{i}")
            x.set("class", "c")
        return True

    def doctype(p, dice):
        p.set(p.main, p.root)
        p.parts[p.main] = p.parts[p.main].replace(b"?>", b"?>\n<!DOCTYPE html>", 1)
        out = io.BytesIO()
        with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as z:
            for name, data in p.parts.items():
                z.writestr(name, data)
        return out.getvalue()

    def more(p, dice):
        p.parts["book/package.opf"] = p.parts["book/package.opf"].replace(b"</metadata>", b'<dc:creator xmlns:dc="http://purl.org/dc/elements/1.1/">A. Warden</dc:creator></metadata>')
        p.parts["META-INF/extra.txt"] = b"seen"
        return True

    def other_names(p, dice):
        for x in body(p).iter(h("strong")):
            x.tag = h("b")
        for x in body(p).iter(h("em")):
            x.tag = h("i")
        return True

    def comment(p, dice):
        body(p).insert(1, etree.Comment("seen"))
        return True

    harmless = {"packed": packed, "noted": noted, "sheet-of-colours": sheet_by(b"\nh2{color:#203040}a:hover{color:#900}"), "doctype": doctype, "more": more, "other-names": other_names, "comment": comment}
    package_changes("epub", opened, faults, harmless)


def txt_changes():
    with open("a.txt", encoding="utf-8", newline="") as file:
        source = file.read()
    paragraphs = source.strip("\n").split("\n\n")

    def join(parts):
        return "\n\n".join(parts) + "\n"

    for name, rewrite in WORDINGS.items():
        for number in range(EACH):
            dice = random.Random(f"{SEED} txt {name} {number}")
            at = dice.choice([i for i, x in enumerate(paragraphs) if rewrite(x, random.Random(1)) not in (None, x)])
            made = rewrite(paragraphs[at], dice)
            if made not in (None, paragraphs[at]):
                put("fault", name, "txt", join([*paragraphs[:at], made, *paragraphs[at + 1:]]), number)
    for number in range(EACH):
        dice = random.Random(f"{SEED} txt {number}")
        at = dice.randrange(len(paragraphs) - 1)
        put("fault", "drop-paragraph", "txt", join([*paragraphs[:at], *paragraphs[at + 1:]]), number)
        put("fault", "double-paragraph", "txt", join([*paragraphs[:at + 1], *paragraphs[at:]]), number)
        if paragraphs[at] != paragraphs[at + 1]:
            put("fault", "swap-paragraphs", "txt", join([*paragraphs[:at], paragraphs[at + 1], paragraphs[at], *paragraphs[at + 2:]]), number)
        put("fault", "join-paragraphs", "txt", join([*paragraphs[:at], f"{paragraphs[at]} {paragraphs[at + 1]}", *paragraphs[at + 2:]]), number)
        put("fault", "cut-off", "txt", source[: len(source) - 60 - dice.randrange(400)], number)
    put("same", "line-ends", "txt", source.replace("\n", "\r\n"))
    put("same", "bom", "txt", "\ufeff" + source)
    put("same", "utf-16", "txt", ("\ufeff" + source).encode("utf-16-le"))
    put("same", "blanks", "txt", source.replace("\n\n", "  \n\n\n"))
    put("same", "no-end", "txt", source.rstrip("\n"))


docx = lambda: Package("a.docx", "word/document.xml")
odt = lambda: Package("a.odt", "content.xml")
package_changes("docx", docx, docx_faults(), docx_harmless())
package_changes("odt", odt, odt_faults(), odt_harmless())
html_changes()
epub_changes()
txt_changes()
print(json.dumps(names))
