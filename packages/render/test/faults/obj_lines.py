"""Copies in OBJ, read and written line by line."""
from outsider import Cannot
from shells import SHELL_FAULTS, SHELL_SAME


class Obj:
    def __init__(self, rnd):
        self.rnd = rnd
        self.head, self.corners, self.triangles = [], [], []
        self.name = ""
        for line in open("a.obj", encoding="utf-8").read().split("\n"):
            words = line.split()
            if line.startswith("v "):
                self.corners.append([float(x) for x in words[1:]])
            elif line.startswith("f "):
                self.triangles.append([int(x) - 1 for x in words[1:]])
            elif line.startswith("o "):
                self.name = line[2:]
            elif words:
                self.head.append(line)
        self.before, self.between, self.behind = [], [], []
        self.corner = lambda i, p: "v " + " ".join("%.9g" % x for x in p)
        self.face = lambda i, t: "f " + " ".join(str(c + 1) for c in t)
        self.end = "\n"
        self.after = lambda text: text

    def bytes(self):
        lines = [*self.head, *self.before]
        if self.name is not None:
            lines.append("o " + self.name)
        lines += [self.corner(i, p) for i, p in enumerate(self.corners)]
        lines += self.between
        lines += [self.face(i, t) for i, t in enumerate(self.triangles)]
        made = self.after(self.end.join([*lines, *self.behind]) + self.end)
        return made if isinstance(made, bytes) else made.encode()


def set_to(**what):
    def change(one):
        for name, value in what.items():
            setattr(one, name, value)
    return change


def behind(*lines):
    return set_to(behind=list(lines))


def one_corner(words):
    """The line of one corner, said in another way."""
    def change(one):
        at = one.rnd.randrange(len(one.corners))
        plain = one.corner
        one.corner = lambda i, p: words(p) if i == at else plain(i, p)
    return change


def one_face(words):
    def change(one):
        at = one.rnd.randrange(len(one.triangles))
        plain = one.face
        one.face = lambda i, t: words(one, [c + 1 for c in t]) if i == at else plain(i, t)
    return change


def each_face(words):
    return lambda one: setattr(one, "face", lambda i, t: words(one, [c + 1 for c in t]))


def hexadecimal(one):
    """A number in digits that the format has not: ten is said as 0xA."""
    whole = [i for i, p in enumerate(one.corners) if p[0] > 0 and p[0] == int(p[0])]
    if not whole:
        raise Cannot
    at, plain = whole[0], one.corner
    one.corner = lambda i, p: f"v {hex(int(p[0]))} {p[1]} {p[2]}" if i == at else plain(i, p)


def said(p, form="%.9g"):
    return " ".join(form % x for x in p)


def quads(one):
    """Two flat triangles that meet become one face of four corners."""
    sides = {}
    for i, t in enumerate(one.triangles):
        for k in range(3):
            sides[(t[k], t[(k + 1) % 3])] = i
    normal = {}
    for i, t in enumerate(one.triangles):
        a, b, c = (one.corners[x] for x in t)
        u, v = [q - p for p, q in zip(a, b)], [q - p for p, q in zip(a, c)]
        n = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]]
        size = sum(x * x for x in n) ** 0.5 or 1
        normal[i] = [x / size for x in n]
    done = set()
    for (a, b), i in list(sides.items()):
        j = sides.get((b, a))
        if j is None or i in done or j in done or sum(x * y for x, y in zip(normal[i], normal[j])) < 1 - 1e-12:
            continue
        other = next(c for c in one.triangles[j] if c not in (a, b))
        third = next(c for c in one.triangles[i] if c not in (a, b))
        one.triangles[i] = [a, other, b, third]
        one.triangles[j] = None
        done.update((i, j))
    one.triangles[:] = [t for t in one.triangles if t]


def second(one):
    one.behind = ["o more", "v 200 0 0", "v 210 0 0", "v 200 10 0", "f -3 -2 -1"]


def split_in_two(one):
    """Half of the triangles belong to an object of another name."""
    half = len(one.triangles) // 2
    plain = one.face
    one.face = lambda i, t: ("o other\n" if i == half else "") + plain(i, t)


OBJ_FAULTS = {
    **SHELL_FAULTS,
    "renamed": set_to(name="Fen plates"),
    "name-in-capitals": set_to(name="FEN PLATE"),
    "nameless": set_to(name=None),
    "named-twice": behind("o Fen plate", "v 200 0 0", "v 210 0 0", "v 200 10 0", "f -3 -2 -1"),
    "second-object": second,
    "two-objects": split_in_two,
    "corner-weighed": one_corner(lambda p: f"v {said(p)} 0.5"),
    "corner-coloured": one_corner(lambda p: f"v {said(p)} 1 0 0"),
    "two-numbers": one_corner(lambda p: f"v {p[0]} {p[1]}"),
    "comma": one_corner(lambda p: "v " + said(p, "%.4f").replace(".", ",")),
    "no-number": one_corner(lambda p: f"v nan {p[1]} {p[2]}"),
    "without-end": one_corner(lambda p: f"v {p[0]} Infinity {p[2]}"),
    "hexadecimal": hexadecimal,
    "face-of-two": one_face(lambda one, t: f"f {t[0]} {t[1]}"),
    "face-of-nothing": one_face(lambda one, t: "f"),
    "corner-0": one_face(lambda one, t: f"f 0 {t[1]} {t[2]}"),
    "corner-unknown": one_face(lambda one, t: f"f {t[0]} {t[1]} {len(one.corners) + 9}"),
    "corner-in-parts": one_face(lambda one, t: f"f {t[0]} {t[1]} {t[2]}.5"),
    "face-the-other-way": one_face(lambda one, t: f"f {t[2]} {t[1]} {t[0]}"),
    "counted-from-0": each_face(lambda one, t: "f " + " ".join(str(c - 1) for c in t)),
    "line": behind("l 1 2 3"),
    "point": behind("p 1"),
    "curve": behind("curv 0 1 1 2"),
    "surface": behind("surf 0 1 0 1 1 2 3 4"),
    "called": behind("call other.obj"),
    "run": behind("csh touch x"),
    "unknown": behind("something 1 2 3"),
    "shadow": behind("shadow_obj other.obj"),
    "traced": behind("trace_obj other.obj"),
    "parameter-point": behind("vp 0.1 0.2"),
    "bevelled": behind("bevel on"),
    "cut-in-a-line": set_to(after=lambda text: text[: text.rindex(" ")]),
    "cut-half": set_to(after=lambda text: text[: len(text) // 2]),
    "few-digits": lambda one: setattr(one, "corner", lambda i, p: f"v {said(p, '%.2g')}"),
    "wide-letters": set_to(after=lambda text: text.encode("utf-16")),
}

OBJ_SAME = {
    **SHELL_SAME,
    "crlf": set_to(end="\r\n"),
    "old-ends": set_to(end="\r"),
    "spaces": set_to(after=lambda text: text.replace("v ", "v    ").replace("f ", "f\t")),
    "indented": set_to(after=lambda text: "\n".join("  " + line for line in text.split("\n"))),
    "spaces-behind": set_to(after=lambda text: text.replace("\n", "  \n")),
    "notes": set_to(before=["# somebody's", "#v 1 2 3"], between=["# faces"]),
    "notes-behind": each_face(lambda one, t: "f " + " ".join(map(str, t)) + " # a face"),
    "empty-lines": set_to(end="\n\n"),
    "continued": each_face(lambda one, t: f"f {t[0]} \\\n {t[1]} {t[2]}"),
    "from-the-end": each_face(lambda one, t: "f " + " ".join(str(c - 1 - len(one.corners)) for c in t)),
    "with-normals": lambda one: (setattr(one, "between", ["vn 0 0 1"]), setattr(one, "face", lambda i, t: "f " + " ".join(f"{c + 1}//1" for c in t)), None)[-1],
    "with-pictures": lambda one: (setattr(one, "between", ["vt 0.5 0.5"]), setattr(one, "face", lambda i, t: "f " + " ".join(f"{c + 1}/1" for c in t)), None)[-1],
    "with-both": lambda one: (setattr(one, "between", ["vt 0.5 0.5", "vn 0 0 1"]), setattr(one, "face", lambda i, t: "f " + " ".join(f"{c + 1}/1/1" for c in t)), None)[-1],
    "smooth": set_to(between=["s 1", "s off"]),
    "grouped": set_to(between=["g one two"]),
    "painted-elsewhere": set_to(before=["mtllib plate.mtl"], between=["usemtl grey"]),
    "weight-of-one": lambda one: setattr(one, "corner", lambda i, p: f"v {said(p)} 1"),
    "exponents": lambda one: setattr(one, "corner", lambda i, p: f"v {said(p, '%.10e')}"),
    "signs": lambda one: setattr(one, "corner", lambda i, p: f"v {said(p, '%+.9g')}"),
    "many-digits": lambda one: setattr(one, "corner", lambda i, p: f"v {said(p, '%.15f')}"),
    "quads": quads,
    "byte-order-mark": set_to(after=lambda text: "\ufeff" + text),
    "no-end": set_to(after=lambda text: text.rstrip("\n")),
}
