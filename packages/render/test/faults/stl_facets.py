"""Copies in STL, read and written facet by facet."""
import re
import struct

from shells import SHELL_FAULTS, SHELL_SAME


class Stl:
    def __init__(self, rnd):
        self.rnd = rnd
        data = open("a.stl", "rb").read()
        self.head, count = data[:80], struct.unpack_from("<I", data, 80)[0]
        place, self.corners, self.triangles = {}, [], []
        for i in range(count):
            numbers = struct.unpack_from("<12fH", data, 84 + 50 * i)
            three = []
            for k in (3, 6, 9):
                at = tuple(numbers[k:k + 3])
                if at not in place:
                    place[at] = len(self.corners)
                    self.corners.append(list(at))
                three.append(place[at])
            self.triangles.append(three)
        self.normals = {}
        self.bits = {}
        self.tail = b""
        self.count = 0
        self.how = None
        self.after = lambda text: text

    def normal(self, t):
        a, b, c = (self.corners[x] for x in t)
        u, v = [q - p for p, q in zip(a, b)], [q - p for p, q in zip(a, c)]
        n = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]]
        size = sum(x * x for x in n) ** 0.5 or 1
        return [x / size for x in n]

    def bytes(self):
        if self.how:
            return self.after(self.how(self)).encode()
        out = [self.head, struct.pack("<I", len(self.triangles) + self.count)]
        for i, t in enumerate(self.triangles):
            normal = self.normals.get(i) or self.normal(t)
            out.append(struct.pack("<12fH", *normal, *(x for c in t for x in self.corners[c]), self.bits.get(i, 0)))
        return self.after(b"".join(out) + self.tail)


def words(end="\n", case=str, name="part", deep="  ", form="%.9g", normals=True):
    def text(one):
        lines = [case("solid ") + name]
        for t in one.triangles:
            normal = one.normal(t) if normals else [0, 0, 0]
            lines.append(deep + case("facet normal ") + " ".join(form % x for x in normal))
            lines.append(2 * deep + case("outer loop"))
            lines += [3 * deep + case("vertex ") + " ".join(form % x for x in one.corners[c]) for c in t]
            lines += [2 * deep + case("endloop"), deep + case("endfacet")]
        lines.append(case("endsolid ") + name)
        return end.join(lines) + end
    return text


def as_text(after=lambda text: text, **said):
    def change(one):
        one.how = words(**said)
        one.after = after
    return change


def set_to(**what):
    def change(one):
        for name, value in what.items():
            setattr(one, name, value)
    return change


def at_some(of, value):
    def change(one):
        getattr(one, of)[one.rnd.randrange(len(one.triangles))] = value
    return change


def normals_against(one):
    for i in one.rnd.sample(range(len(one.triangles)), 5):
        one.normals[i] = [-x for x in one.normal(one.triangles[i])]


def painted(one):
    for i in range(len(one.triangles)):
        one.bits[i] = 0x8000 | 0x1F


def cut(share):
    def change(one):
        one.after = lambda data: data[: int(share * len(data))]
    return change


def swapped(data):
    """The numbers of another machine, most significant byte first."""
    out = bytearray(data)
    for i in range((len(data) - 84) // 50):
        for k in range(12):
            at = 84 + 50 * i + 4 * k
            out[at:at + 4] = out[at:at + 4][::-1]
    return bytes(out)




def some_line(one_line):
    """One line in the middle of the text is changed."""
    def change(text):
        lines = text.split("\n")
        at = next(i for i in range(len(lines) // 2, len(lines)) if "vertex" in lines[i])
        lines[at:at + 1] = one_line(lines[at])
        return "\n".join(lines)
    return change


STL_FAULTS = {
    **SHELL_FAULTS,
    "count-more": set_to(count=1),
    "count-less": set_to(count=-1),
    "count-none": lambda one: set_to(count=-len(one.triangles))(one),
    "normal-against": normals_against,
    "bits-of-one": at_some("bits", 7),
    "bits-of-all": painted,
    "bytes-behind": set_to(tail=b"\0" * 50),
    "byte-behind": set_to(tail=b"x"),
    "cut-half": cut(0.5),
    "cut-little": lambda one: setattr(one, "after", lambda data: data[:-1]),
    "no-number": lambda one: one.corners.__setitem__(0, [float("nan"), 0.0, 0.0]),
    "without-end-number": lambda one: one.corners.__setitem__(0, [float("inf"), 0.0, 0.0]),
    "bytes-swapped": set_to(after=swapped),
    "text-cut": as_text(lambda text: text[: len(text) * 2 // 3]),
    "text-end-gone": as_text(lambda text: text.rsplit("endsolid", 1)[0]),
    "text-two-solids": as_text(lambda text: text + "solid more\nfacet normal 0 0 1\nouter loop\nvertex 90 0 0\nvertex 91 0 0\nvertex 90 1 0\nendloop\nendfacet\nendsolid more\n"),
    "text-four-corners": as_text(some_line(lambda line: [line, line])),
    "text-two-corners": as_text(some_line(lambda line: [])),
    "text-commas": as_text(some_line(lambda line: [line.replace(".", ",")])),
    "text-hexadecimal": as_text(some_line(lambda line: ["vertex 0x10 0 0"])),
    "text-other-word": as_text(some_line(lambda line: [line.replace("vertex", "vertx")])),
    "text-two-numbers": as_text(some_line(lambda line: [line.rsplit(" ", 1)[0]])),
    "text-four-numbers": as_text(some_line(lambda line: [line + " 7"])),
    "text-few-digits": as_text(form="%.2g"),
    "text-normals-against": as_text(lambda text: text.replace("facet normal 0 0 -1", "facet normal 0 0 1")),
    "text-words-behind": as_text(lambda text: text + "and more\n"),
}

STL_SAME = {
    **SHELL_SAME,
    "head-of-another": set_to(head=b"made by somebody".ljust(80, b" ")),
    "head-empty": set_to(head=b"\0" * 80),
    "head-solid": set_to(head=b"solid in spite of its bytes".ljust(80, b"\0")),
    "no-normals": lambda one: [one.normals.__setitem__(i, [0.0, 0.0, 0.0]) for i in range(len(one.triangles))] and None,
    "rough-normals": lambda one: [one.normals.__setitem__(i, [round(x, 1) + 0.01 for x in one.normal(t)]) for i, t in enumerate(one.triangles)] and None,
    "text": as_text(),
    "text-crlf": as_text(end="\r\n"),
    "text-old-ends": as_text(end="\r"),
    "text-capitals": as_text(case=str.upper),
    "text-mixed": as_text(case=str.title),
    "text-tabs": as_text(deep="\t"),
    "text-flat": as_text(deep=""),
    "text-exponents": as_text(form="%.8e"),
    "text-capital-exponents": as_text(form="%.8E"),
    "text-signs": as_text(form="%+.9g"),
    "text-nameless": as_text(name=""),
    "text-long-name": as_text(name="a plate with a boss; facet of somebody"),
    "text-no-normals": as_text(normals=False),
    "text-empty-lines": as_text(lambda text: text.replace("\n", "\n\n")),
    "text-spaces": as_text(lambda text: text.replace(" ", "   ")),
    "text-facets-on-lines": as_text(lambda text: re.sub(r"\n(?!  facet|endsolid|$)", " ", text)),
    "text-behind-empty-lines": as_text(lambda text: "\n\n" + text),
}
