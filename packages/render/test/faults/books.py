"""Changes of books: of their text, and of the parts around it (EPUB 3.3)."""
import re
import zipfile

from lxml import etree

from outsider import Package
from texts_on_pages import FAULTS, SAME, Page

X = "http://www.w3.org/1999/xhtml"
OPF = "http://www.idpf.org/2007/opf"
DC = "http://purl.org/dc/elements/1.1/"


class Book(Package):
    """A book whose text is one part."""

    def __init__(self, rnd):
        super().__init__("a.epub", rnd, standalone=False, stored=("mimetype",))
        self.whole = None

    @property
    def root(self):
        return self.xml("book/text-1.xhtml")

    @property
    def body(self):
        return self.root.find(self.tag("body"))

    @property
    def head(self):
        return self.root.find(self.tag("head"))

    @property
    def package(self):
        return self.xml("book/package.opf")

    @property
    def nav(self):
        return self.xml("book/nav.xhtml")

    @staticmethod
    def tag(name):
        return f"{{{X}}}{name}"

    is_content = staticmethod(Page.is_content)

    @staticmethod
    def made(name, attributes):
        one = etree.Element(f"{{{X}}}{name}")
        for key, value in attributes.items():
            one.set(key, value)
        return one

    def add_rules(self, words):
        old = self.parts["book/style.css"].decode("utf-8")
        new = words + "\n" + old if words.startswith("@charset") else old + "\n" + words
        self.parts["book/style.css"] = new.encode("utf-8")

    def bytes(self):
        return self.whole if self.whole is not None else super().bytes()


def opf(change):
    return lambda book: change(book, book.package)


def p(name):
    return f"{{{OPF}}}{name}"


def of_spine(**more):
    return opf(lambda book, root: root.find(p("spine")).attrib.update(more))


def of_reading(**more):
    return opf(lambda book, root: root.find(p("spine"))[0].attrib.update(more))


def of_metadata(markup):
    return opf(lambda book, root: root.find(p("metadata")).append(etree.fromstring(markup)))


def contents(change):
    def act(book):
        x = book.pick(x for x in book.nav.iter(book.tag("span"), book.tag("a")) if x.text)
        change(book, x)
    return act


def part(name, data):
    return lambda book: book.parts.__setitem__(name, data)


def moved(book):
    """All parts in another folder; only the container says where."""
    book.bytes()
    book.trees = {}
    book.parts = {re.sub(r"^book/", "OEBPS/", name): data for name, data in book.parts.items()}
    book.parts["META-INF/container.xml"] = book.parts["META-INF/container.xml"].replace(b"book/package.opf", b"OEBPS/package.opf")


def called(book):
    """The part of the text has another name."""
    book.parts["book/one.xhtml"] = book.parts.pop("book/text-1.xhtml")
    for name in ("book/package.opf", "book/nav.xhtml"):
        book.parts[name] = book.parts[name].replace(b"text-1.xhtml", b"one.xhtml")
    book.parts["book/one.xhtml"] = book.parts["book/one.xhtml"].replace(b"text-1.xhtml", b"one.xhtml")


def second(book):
    """A second part that is read after the first."""
    book.parts["book/text-2.xhtml"] = book.parts["book/nav.xhtml"]
    root = book.package
    root.find(p("manifest")).append(etree.fromstring(f'<item xmlns="{OPF}" id="text-2" href="text-2.xhtml" media-type="application/xhtml+xml"/>'))
    root.find(p("spine")).append(etree.fromstring(f'<itemref xmlns="{OPF}" idref="text-2"/>'))


def unread(book):
    """A part that nobody is led to."""
    book.parts["book/notes.txt"] = b"seen"
    book.package.find(p("manifest")).append(etree.fromstring(f'<item xmlns="{OPF}" id="own" href="notes.txt" media-type="text/plain"/>'))


def prefixed(book):
    data = book.parts["book/package.opf"]
    data = re.sub(rb"<(/?)(?![?!/])(?!dc:)", rb"<\1o:", data)
    book.parts["book/package.opf"] = data.replace(b'xmlns="', b'xmlns:o="', 1)


def first_lines(words):
    def act(book):
        data = book.parts["book/text-1.xhtml"]
        book.parts["book/text-1.xhtml"] = data.replace(b"?>", b"?>" + words, 1)
    return act


def somebodys(book, *names):
    """An element that says that its name is of another space: a book is XML, where that counts (EPUB 3.3, 6.1)."""
    old = book.pick(one for one in book.body.iter(*(book.tag(name) for name in names)) if "".join(one.itertext()).strip())
    new = etree.Element("{urn:somebody}" + etree.QName(old).localname, nsmap={None: "urn:somebody"})
    new.text, new.tail = old.text, old.tail
    new[:] = old[:]
    old.getparent().replace(old, new)


def capitals(*names):
    def change(book):
        one = book.pick(book.body.iter(*(book.tag(name) for name in names)))
        one.tag = book.tag(etree.QName(one).localname.upper())
    return change


EPUB_FAULTS = {
    **FAULTS,
    "a paragraph of somebody's": lambda book: somebodys(book, "p"),
    "a heading of somebody's": lambda book: somebodys(book, "h1", "h2"),
    "an item of somebody's": lambda book: somebodys(book, "li"),
    "a heading in capitals": capitals("h1", "h2"),
    "an item in capitals": capitals("li"),
    "pages from right to left": of_spine(**{"page-progression-direction": "rtl"}),
    "beside the order": of_reading(linear="no"),
    "laid out by itself": of_reading(properties="rendition:layout-pre-paginated"),
    "laid out once for all": of_metadata(f'<meta xmlns="{OPF}" property="rendition:layout">pre-paginated</meta>'),
    "a second part": second,
    "the part twice": opf(lambda book, root: root.find(p("spine")).append(etree.fromstring(f'<itemref xmlns="{OPF}" idref="text-1"/>'))),
    "another name of the book": opf(lambda book, root: setattr(root.find(f".//{{{DC}}}title"), "text", "Round the moor")),
    "another language of the book": opf(lambda book, root: setattr(root.find(f".//{{{DC}}}language"), "text", "cy")),
    "locked": part("META-INF/encryption.xml", b'<encryption xmlns="urn:oasis:names:tc:opendocument:xmlns:container"/>'),
    "a line of the contents otherwise": contents(lambda book, x: setattr(x, "text", "Round the moor")),
    "a line of the contents more": contents(lambda book, x: x.getparent().addnext(etree.fromstring(f'<li xmlns="{X}"><span>More</span></li>'))),
    "the contents lead elsewhere": lambda book: book.pick(book.nav.iter(book.tag("a"))).set("href", "https://elsewhere.example/"),
    "no contents": lambda book: book.nav.find(f".//{book.tag('nav')}").clear(),
    "no part of the contents": lambda book: (book.parts.pop("book/nav.xhtml"), None),
    "no sheet": lambda book: book.parts.pop("book/style.css"),
    "not said to be a book": lambda book: book.parts.pop("mimetype"),
    "a picture that is gone": lambda book: book.parts.pop(book.pick(n for n in book.parts if n.endswith(".png"))),
    "pictures exchanged": lambda book: (lambda names: (lambda a, b: book.parts.update({a: book.parts[b], b: book.parts[a]}))(*names))(sorted(n for n in book.parts if n.endswith(".png"))[:2]),
    "read elsewhere": lambda book: book.xml("META-INF/container.xml").find(".//{*}rootfile").set("full-path", "book/other.opf"),
}
EPUB_SAME = {
    **SAME,
    "not packed": lambda book: setattr(book, "how", zipfile.ZIP_STORED),
    "parts in another order": lambda book: setattr(book, "order", ["mimetype", *sorted(n for n in book.parts if n != "mimetype")]),
    "another folder": moved,
    "another name of the part": called,
    "a part that nobody reads": unread,
    "another prefix": prefixed,
    "a kind of document": first_lines(b"\n<!DOCTYPE html>"),
    "a remark before": first_lines(b"\n<!-- seen -->"),
    "who wrote it": of_metadata(f'<dc:creator xmlns:dc="{DC}">Jory Vane</dc:creator>'),
    "of what it is": of_metadata(f'<dc:subject xmlns:dc="{DC}">reeds</dc:subject>'),
    "flowing": of_metadata(f'<meta xmlns="{OPF}" property="rendition:flow">auto</meta>'),
    "changed later": opf(lambda book, root: setattr(next(m for m in root.iter(p("meta")) if m.get("property") == "dcterms:modified"), "text", "2026-11-29T10:00:00Z")),
    "from left to right": of_spine(**{"page-progression-direction": "ltr"}),
}
