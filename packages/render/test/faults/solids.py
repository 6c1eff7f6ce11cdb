"""Spoils copies of a solid, and re-writes them without harm, by code that shares nothing with ours.

Takes copies in this folder (a.stl, a.obj, a.3mf, a.glb, a.step), a seed and how often; writes fault-*.ext and same-*.ext, and
prints their names. STL is read and written by numpy-stl, the others by the standard library and numpy.
"""
import io
import json
import random
import re
import struct
import sys
import xml.etree.ElementTree as ET
import zipfile

import numpy as np
from stl import mesh as stl_mesh
from stl import Mode

SEED, EACH = int(sys.argv[1]), int(sys.argv[2])
names = []
CORE = "http://schemas.microsoft.com/3dmanufacturing/core/2015/02"  # term-guard: standard (3MF core 1.3, 1.2)
START = "http://schemas.microsoft.com/3dmanufacturing/2013/01/3dmodel"  # term-guard: standard (3MF core 1.3, 2.1.1)


def put(kind, name, ext, data, number):
    path = f"{kind}-{name}-{number}.{ext}"
    with open(path, "wb") as out:
        out.write(data if isinstance(data, bytes) else data.encode("utf-8"))
    names.append(path)


# Readers: each gives corners (n, 3) in millimetres and triangles (m, 3).

def indexed(soup):
    flat = soup.reshape(-1, 3)
    keys = np.round(flat, 4)
    _, first, inverse = np.unique(keys, axis=0, return_index=True, return_inverse=True)
    return flat[first].astype(float), inverse.reshape(-1, 3)


def read_stl():
    return indexed(stl_mesh.Mesh.from_file("a.stl").vectors.astype(float))


def read_obj():
    corners, triangles = [], []
    for line in open("a.obj", encoding="utf-8"):
        if line.startswith("v "):
            corners.append([float(x) for x in line.split()[1:4]])
        elif line.startswith("f "):
            triangles.append([int(x.split("/")[0]) - 1 for x in line.split()[1:]])
    return np.array(corners), np.array(triangles)


def read_3mf():
    root = ET.fromstring(zipfile.ZipFile("a.3mf").read("3D/3dmodel.model"))
    corners = [[float(v.get(k)) for k in "xyz"] for v in root.iter(f"{{{CORE}}}vertex")]
    triangles = [[int(t.get(k)) for k in ("v1", "v2", "v3")] for t in root.iter(f"{{{CORE}}}triangle")]
    return np.array(corners), np.array(triangles)


def glb_parts():
    data = open("a.glb", "rb").read()
    length = struct.unpack("<I", data[12:16])[0]
    document = json.loads(data[20:20 + length])
    return document, data[20 + length + 8:]


def read_glb():
    document, blob = glb_parts()
    views = document["bufferViews"]

    def view(at, kind):
        one = views[document["accessors"][at]["bufferView"]]
        return np.frombuffer(blob, kind, document["accessors"][at]["count"] * (3 if kind == "<f4" else 1), one["byteOffset"])

    primitive = document["meshes"][0]["primitives"][0]
    places = view(primitive["attributes"]["POSITION"], "<f4").reshape(-1, 3).astype(float) * 1000
    # Metres with y upwards.
    corners = np.stack([places[:, 0], -places[:, 2], places[:, 1]], axis=1)
    return corners, view(primitive["indices"], "<u4").reshape(-1, 3)


# Writers, each in more ways than one.

def stl_of(v, t, rnd, way="binary"):
    out = stl_mesh.Mesh(np.zeros(len(t), dtype=stl_mesh.Mesh.dtype))
    out.vectors[:] = v[t].astype(np.float32)
    if way == "text":
        normals = np.cross(out.v1 - out.v0, out.v2 - out.v0)
        lines = ["SOLID someone's"]
        for n, tri in zip(normals, out.vectors):
            lines.append("FACET NORMAL %.6e %.6e %.6e" % tuple(n))
            lines.append("OUTER LOOP")
            lines += ["\tVERTEX %.9e %.9e %.9e" % tuple(p) for p in tri]
            lines += ["ENDLOOP", "ENDFACET"]
        return ("\r\n".join(lines + ["ENDSOLID"]) + "\r\n").encode()
    out.update_normals()
    out.save("someone.stl", mode=Mode.BINARY)
    return open("someone.stl", "rb").read()


def obj_of(v, t, rnd, way="plain", name="Fen plate"):
    lines = ["# from elsewhere", "mtllib none.mtl", f"o {name}"]
    lines += ["v %.9g %.9g %.9g" % tuple(p) for p in v]
    if way == "normals":
        lines += ["vn 0 0 1", "vt 0.5 0.5", "g some group", "s off", "usemtl none"]
        lines += ["f " + " ".join(f"{i + 1}/1/1" for i in tri) for tri in t]
    elif way == "negative":
        lines += ["f " + " ".join(str(i - len(v)) for i in tri) for tri in t]
    else:
        lines += ["f " + " ".join(str(i + 1) for i in tri) for tri in t]
    return "\n".join(lines) + "\n"


def three_of(v, t, rnd, way="plain", unit="millimeter", name="Fen plate", colour="#5F6F73FF", item="", scale=1.0):
    v = v * scale
    vertices = "".join('<p:vertex x="%.9g" y="%.9g" z="%.9g"/>' % tuple(p) for p in v)
    triangles = "".join('<p:triangle v1="%d" v2="%d" v3="%d"/>' % tuple(tri) for tri in t)
    inner = f'<p:object id="8" name="{name}" pid="4" pindex="0" type="model"><p:mesh><p:vertices>{vertices}</p:vertices><p:triangles>{triangles}</p:triangles></p:mesh></p:object>'
    build = f'<p:item objectid="8"{item}/>'
    if way == "component":
        inner = inner.replace('id="8"', 'id="7"') + f'<p:object id="8" name="{name}" pid="4" pindex="0"><p:components><p:component objectid="7" transform="1 0 0 0 1 0 0 0 1 5 0 -2"/></p:components></p:object>'
        build = '<p:item objectid="8" transform="1 0 0 0 1 0 0 0 1 -5 0 2"/>'
    model = (f'<?xml version="1.0"?><p:model xmlns:p="{CORE}" unit="{unit}"><p:metadata name="Application">someone</p:metadata><p:resources>'
             f'<p:basematerials id="4"><p:base name="grey" displaycolor="{colour}"/></p:basematerials>{inner}</p:resources><p:build>{build}</p:build></p:model>')
    buffer = io.BytesIO()
    with zipfile.ZipFile(buffer, "w", zipfile.ZIP_DEFLATED) as out:
        out.writestr("[Content_Types].xml", '<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="model" ContentType="application/vnd.ms-package.3dmanufacturing-3dmodel+xml"/></Types>')
        out.writestr("_rels/.rels", f'<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Target="/3D/part.model" Id="a" Type="{START}"/></Relationships>')
        out.writestr("3D/part.model", model)
    return buffer.getvalue()


def linear(part):
    part /= 255
    return part / 12.92 if part <= 0.04045 else ((part + 0.055) / 1.055) ** 2.4


def glb_of(v, t, rnd, way="plain", name="Fen plate", colour=(0x5F, 0x6F, 0x73), node=None):
    places = np.stack([v[:, 0], v[:, 2], -v[:, 1]], axis=1) / 1000
    node = dict(node or {})
    if way == "placed":
        places = (places - [0.02, 0.01, 0]) / 2
        node.update(translation=[0.02, 0.01, 0], scale=[2, 2, 2])
    if way == "loose":
        places, t = places[t].reshape(-1, 3), np.arange(3 * len(t)).reshape(-1, 3)
    small = len(places) < 65536
    kind, code = ("<u2", 5123) if small else ("<u4", 5125)
    data = places.astype("<f4").tobytes()
    start = len(data)
    data += t.astype(kind).tobytes()
    data += b"\0" * (-len(data) % 4)
    accessors = [
        {"bufferView": 0, "componentType": 5126, "count": len(places), "type": "VEC3", "min": places.min(0).tolist(), "max": places.max(0).tolist()},
        {"bufferView": 1, "componentType": code, "count": int(t.size), "type": "SCALAR"},
    ]
    document = {
        "asset": {"version": "2.0", "generator": "someone"},
        "scene": 0,
        "scenes": [{"nodes": [0]}],
        "nodes": [{"name": name, "mesh": 0, **node}],
        "meshes": [{"primitives": [{"attributes": {"POSITION": 0}, "indices": 1, "material": 0}]}],
        "materials": [{"pbrMetallicRoughness": {"baseColorFactor": [linear(c) for c in colour] + [1], "metallicFactor": 0.3}, "name": "grey"}],
        "accessors": accessors,
        "bufferViews": [{"buffer": 0, "byteLength": start}, {"buffer": 0, "byteOffset": start, "byteLength": len(data) - start}],
        "buffers": [{"byteLength": len(data)}],
    }
    if way == "loose":
        del document["meshes"][0]["primitives"][0]["indices"]
    text = json.dumps(document).encode()
    text += b" " * (-len(text) % 4)
    return struct.pack("<III", 0x46546C67, 2, 28 + len(text) + len(data)) + struct.pack("<II", len(text), 0x4E4F534A) + text + struct.pack("<II", len(data), 0x004E4942) + data


FORMATS = {
    "stl": (read_stl, stl_of, ("binary", "text")),
    "obj": (read_obj, obj_of, ("plain", "normals", "negative")),
    "3mf": (read_3mf, three_of, ("plain", "component")),
    "glb": (read_glb, glb_of, ("plain", "placed", "loose")),
}


# Faults of the shape: each gives other corners and triangles.

def normals(v, t):
    n = np.cross(v[t[:, 1]] - v[t[:, 0]], v[t[:, 2]] - v[t[:, 0]])
    out = np.zeros_like(v)
    for k in range(3):
        np.add.at(out, t[:, k], n)
    return out / np.maximum(np.linalg.norm(out, axis=1), 1e-12)[:, None]


def turn(v, axis, angle):
    c, s = np.cos(angle), np.sin(angle)
    out = v.copy()
    i, j = [(1, 2), (2, 0), (0, 1)][axis]
    out[:, i], out[:, j] = c * v[:, i] - s * v[:, j], s * v[:, i] + c * v[:, j]
    return out


# x, y and radius of the holes of the plate.
HOLES = [(-22, -12, 2.5), (-22, 12, 3.25), (-4, -12, 2), (12, 4, 3.5)]


def at_hole(v, which):
    x, y, r = HOLES[which]
    off = np.hypot(v[:, 0] - x, v[:, 1] - y)
    return np.abs(off - r) < 0.02, off


def widened(v, t, rnd):
    which = rnd.randrange(4)
    x, y, r = HOLES[which]
    mask, off = at_hole(v, which)
    by = rnd.choice([0.03, 0.05, 0.1, 0.25, -0.2, 0.5])
    out = v.copy()
    out[mask, 0] = x + (v[mask, 0] - x) * (r + by) / r
    out[mask, 1] = y + (v[mask, 1] - y) * (r + by) / r
    return out, t


def hole_moved(v, t, rnd):
    mask, _ = at_hole(v, rnd.randrange(3))
    out = v.copy()
    out[mask, :2] += np.array([rnd.choice([0.03, 0.1, 0.5, -0.4]), rnd.choice([0, 0.05, -0.3])])
    return out, t


def hole_plugged(v, t, rnd):
    which = rnd.randrange(2)
    mask, _ = at_hole(v, which)
    x, y, _ = HOLES[which]
    keep = t[~mask[t].all(axis=1)]
    # The rims become open edges: each gets a fan.
    edges = {}
    for tri in keep:
        for k in range(3):
            edges[(tri[k], tri[(k + 1) % 3])] = True
    rims = [(a, b) for (a, b) in edges if mask[a] and mask[b] and (b, a) not in edges]
    extra = np.array([[x, y, z] for z in sorted({round(v[a, 2], 3) for a, _ in rims})])
    out = np.vstack([v, extra])
    fans = []
    for a, b in rims:
        near = int(np.argmin(np.abs(extra[:, 2] - v[a, 2])))
        fans.append([b, a, len(v) + near])
    return out, np.vstack([keep, fans])


def corner_out(v, t, rnd):
    out = v.copy()
    at = rnd.randrange(len(v))
    out[at] += normals(v, t)[at] * rnd.choice([0.03, 0.1, 0.6, 3, -0.4])
    return out, t


def lump(v, t, rnd, inside):
    size = rnd.choice([0.5, 2, 6])
    middle = np.array([18, -10, 3]) if inside else np.array([60, 10, 5])
    cube = middle + size / 2 * (np.array([[x, y, z] for x in (-1, 1) for y in (-1, 1) for z in (-1, 1)]))
    faces = np.array([[0, 1, 3], [0, 3, 2], [4, 6, 7], [4, 7, 5], [0, 4, 5], [0, 5, 1], [2, 3, 7], [2, 7, 6], [0, 2, 6], [0, 6, 4], [1, 5, 7], [1, 7, 3]])
    if inside:
        faces = faces[:, ::-1]
    return np.vstack([v, cube]), np.vstack([t, faces + len(v)])


def without(v, t, rnd):
    return v, np.delete(t, rnd.randrange(len(t)), axis=0)


def part_gone(v, t, rnd):
    return v, t[: int(len(t) * rnd.choice([0.3, 0.6, 0.9]))]


def flipped(v, t, rnd):
    out = t.copy()
    at = rnd.randrange(len(t))
    out[at] = out[at][::-1]
    return v, out


def coarse(v, t, rnd):
    step = rnd.choice([0.5, 1, 2])
    return np.round(v / step) * step, t


def sheared(v, t, rnd):
    out = v.copy()
    out[:, 0] += rnd.choice([0.003, 0.01, -0.05]) * v[:, 2] * 3
    return out, t


def stretched(v, t, rnd):
    out = v.copy()
    out[:, rnd.randrange(3)] *= rnd.choice([1.01, 0.97, 1.2])
    return out, t


def noisy(v, t, rnd):
    state = np.random.RandomState(rnd.randrange(1 << 30))
    return v + state.normal(0, rnd.choice([0.05, 0.3]), v.shape), t


def doubled(v, t, rnd):
    some = t[: rnd.choice([1, 20, len(t)])]
    return v, np.vstack([t, some])


def bevel_lost(v, t, rnd):
    # The top of the boss is drawn straight up again.
    out = v.copy()
    off = np.hypot(v[:, 0] - 12, v[:, 1] - 4)
    mask = (v[:, 2] > 14.9) & (off > 5)
    out[mask, 0] = 12 + (v[mask, 0] - 12) * 8 / off[mask]
    out[mask, 1] = 4 + (v[mask, 1] - 4) * 8 / off[mask]
    return out, t


SHAPE_FAULTS = {
    "hole-widened": widened,
    "hole-moved": hole_moved,
    "hole-plugged": hole_plugged,
    "corner-out": corner_out,
    "lump-outside": lambda v, t, rnd: lump(v, t, rnd, False),
    "void-inside": lambda v, t, rnd: lump(v, t, rnd, True),
    "triangle-gone": without,
    "part-gone": part_gone,
    "triangle-flipped": flipped,
    "inside-out": lambda v, t, rnd: (v, t[:, ::-1].copy()),
    "mirrored": lambda v, t, rnd: (v * [-1, 1, 1], t[:, ::-1].copy()),
    "scaled-inch": lambda v, t, rnd: (v * rnd.choice([25.4, 1 / 25.4, 10, 0.1]), t),
    "scaled-little": lambda v, t, rnd: (v * rnd.choice([1.002, 0.995, 1.05]), t),
    "stretched": stretched,
    "moved": lambda v, t, rnd: (v + np.array([rnd.choice([0.03, 0.5, 20]), 0, rnd.choice([0, -0.4])]), t),
    "turned": lambda v, t, rnd: (turn(v, rnd.randrange(3), rnd.choice([0.005, 0.1, np.pi / 2])), t),
    "coarse": coarse,
    "sheared": sheared,
    "noisy": noisy,
    "doubled": doubled,
    "bevel-lost": bevel_lost,
}


# What says the same.

def shuffled(v, t, rnd):
    state = np.random.RandomState(rnd.randrange(1 << 30))
    order = state.permutation(len(v))
    back = np.argsort(order)
    t = back[t][state.permutation(len(t))]
    turns = state.randint(0, 3, len(t))
    return v[order], np.array([np.roll(tri, k) for tri, k in zip(t, turns)])


def split(v, t, rnd):
    """Each side of each triangle gets a corner in its middle."""
    edges, extra = {}, []

    def middle(a, b):
        key = (min(a, b), max(a, b))
        if key not in edges:
            edges[key] = len(v) + len(extra)
            extra.append((v[a] + v[b]) / 2)
        return edges[key]

    out = []
    for a, b, c in t:
        p, q, r = middle(a, b), middle(b, c), middle(c, a)
        out += [[a, p, r], [p, b, q], [r, q, c], [p, q, r]]
    return np.vstack([v, extra]), np.array(out)


def other_diagonals(v, t, rnd):
    """Flat pairs of triangles are cut along their other diagonal, where that stays within them."""
    n = np.cross(v[t[:, 1]] - v[t[:, 0]], v[t[:, 2]] - v[t[:, 0]])
    n /= np.maximum(np.linalg.norm(n, axis=1), 1e-12)[:, None]
    sides = {}
    for i, tri in enumerate(t):
        for k in range(3):
            sides[(tri[k], tri[(k + 1) % 3])] = (i, tri[(k + 2) % 3])
    out, done = t.copy(), set()
    for (a, b), (i, c) in list(sides.items()):
        if (b, a) not in sides or i in done:
            continue
        j, d = sides[(b, a)]
        if j in done or i == j or n[i] @ n[j] < 1 - 1e-12:
            continue
        one, two = np.cross(v[d] - v[a], v[c] - v[a]) @ n[i], np.cross(v[c] - v[b], v[d] - v[b]) @ n[i]
        if one <= 1e-6 or two <= 1e-6 or (c, d) in sides or (d, c) in sides:
            continue
        out[i], out[j] = [a, d, c], [b, c, d]
        done.update((i, j))
    return v, out


def with_slivers(v, t, rnd):
    some = t[rnd.randrange(len(t))]
    return v, np.vstack([t, [[some[0], some[0], some[1]], [some[1], some[2], some[2]]]])


HARMLESS = {
    "as-it-is": lambda v, t, rnd: (v, t),
    "shuffled": shuffled,
    "split": split,
    "other-diagonals": other_diagonals,
    "trembling": lambda v, t, rnd: (v + np.random.RandomState(rnd.randrange(1 << 30)).uniform(-4e-4, 4e-4, v.shape), t),
    "slivers": with_slivers,
}

for ext, (read, write, ways) in FORMATS.items():
    corners, triangles = read()
    for number in range(EACH):
        for name, spoil in SHAPE_FAULTS.items():
            rnd = random.Random(f"{SEED} {ext} {name} {number}")
            put("fault", name, ext, write(*spoil(corners, triangles, rnd), rnd, rnd.choice(ways)), number)
    for number, way in enumerate(ways):
        for name, change in HARMLESS.items():
            rnd = random.Random(f"{SEED} {ext} {name} {number}")
            put("same", name, ext, write(*change(corners, triangles, rnd), rnd, way), number)

# What is of single formats.
v, t = read_stl()
plain = stl_of(v, t, None)
rnd = random.Random(f"{SEED} stl")
for number in range(EACH):
    put("fault", "cut-off", "stl", plain[: rnd.randrange(100, len(plain) - 10)], number)
    put("fault", "count-lies", "stl", plain[:80] + struct.pack("<I", len(t) + rnd.choice([1, 5, -3, 10 ** 6])) + plain[84:], number)
    at = 84 + 50 * rnd.randrange(len(t)) + 12 + 4 * rnd.randrange(9)
    put("fault", "no-number", "stl", plain[:at] + struct.pack("<f", rnd.choice([float("nan"), float("inf"), 3e9])) + plain[at + 4:], number)
    put("fault", "normal-against", "stl", plain[:84] + struct.pack("<fff", *(-np.array(struct.unpack("<fff", plain[84:96])))) + plain[96:], number)
put("same", "header", "stl", b"somebody else's header".ljust(80, b" ") + plain[80:], 0)
put("same", "no-normals", "stl", b"".join([plain[:84]] + [b"\0" * 12 + plain[84 + 50 * i + 12: 84 + 50 * (i + 1)] for i in range(len(t))]), 0)
put("same", "header-solid", "stl", b"solid but binary".ljust(80, b"\0") + plain[80:], 0)

v, t = read_obj()
text = obj_of(v, t, None)
rnd = random.Random(f"{SEED} obj")
for number in range(EACH):
    put("fault", "renamed", "obj", obj_of(v, t, None, name=f"Other {number}"), number)
    put("fault", "corner-unknown", "obj", text + f"f 1 2 {len(v) + 5}\n", number)
    put("fault", "no-number", "obj", text.replace("v ", "v nan", 1), number)
    put("fault", "second-object", "obj", text + "o more\nv 200 0 0\nv 210 0 0\nv 200 10 0\nf -3 -2 -1\n", number)
    put("fault", "line", "obj", text + "l 1 2 3\n", number)
put("same", "crlf", "obj", text.replace("\n", "\r\n"), 0)
put("same", "spaces", "obj", text.replace(" ", "   ").replace("o   Fen   plate", "o Fen plate"), 0)

v, t = read_3mf()
rnd = random.Random(f"{SEED} 3mf")
for number in range(EACH):
    put("fault", "renamed", "3mf", three_of(v, t, None, name=f"Plate {number}"), number)
    put("fault", "repainted", "3mf", three_of(v, t, None, colour=rnd.choice(["#5F6F74FF", "#FF0000FF", "#5F6F7380"])), number)
    put("fault", "unit", "3mf", three_of(v, t, None, unit=rnd.choice(["inch", "centimeter", "micron", "foot"])), number)
    put("fault", "placed", "3mf", three_of(v, t, None, item=f' transform="1 0 0 0 1 0 0 0 1 {rnd.choice([0.5, 3])} 0 0"'), number)
    put("fault", "not-built", "3mf", three_of(v, t, None, item=' printable="0"'), number)
    whole = three_of(v, t, None)
    put("fault", "cut-off", "3mf", whole[: rnd.randrange(100, len(whole) - 30)], number)
put("same", "inches", "3mf", three_of(v, t, None, unit="inch", scale=1 / 25.4), 0)
put("same", "metres", "3mf", three_of(v, t, None, unit="meter", scale=1 / 1000), 0)
put("same", "short-colour", "3mf", three_of(v, t, None, colour="#5f6f73"), 0)

v, t = read_glb()
rnd = random.Random(f"{SEED} glb")
for number in range(EACH):
    put("fault", "renamed", "glb", glb_of(v, t, None, name=f"Plate {number}"), number)
    put("fault", "repainted", "glb", glb_of(v, t, None, colour=rnd.choice([(0x60, 0x6F, 0x73), (255, 0, 0)])), number)
    put("fault", "shifted", "glb", glb_of(v, t, None, node={"translation": [rnd.choice([0.0005, 0.01]), 0, 0]}), number)
    put("fault", "enlarged", "glb", glb_of(v, t, None, node={"scale": [1, rnd.choice([1.01, 2]), 1]}), number)
    put("fault", "turned-node", "glb", glb_of(v, t, None, node={"rotation": [0, 0.7071068, 0, 0.7071068]}), number)
    put("fault", "mirrored-node", "glb", glb_of(v, t, None, node={"scale": [-1, 1, 1]}), number)
    whole = glb_of(v, t, None)
    put("fault", "cut-off", "glb", whole[: rnd.randrange(40, len(whole) - 10)], number)
    document, blob = glb_parts()
    document["accessors"][1]["count"] -= 3 * rnd.choice([1, 4])
    text = json.dumps(document).encode()
    text += b" " * (-len(text) % 4)
    put("fault", "count-less", "glb", struct.pack("<III", 0x46546C67, 2, 28 + len(text) + len(blob)) + struct.pack("<II", len(text), 0x4E4F534A) + text + struct.pack("<II", len(blob), 0x004E4942) + blob, number)
put("same", "turned-twice", "glb", glb_of(v * [-1, -1, 1], t, None, node={"rotation": [0, 1, 0, 0]}), 0)

# STEP by its text.
step = open("a.step", encoding="latin-1").read()
head, data = step.split("DATA;", 1)
data, tail = data.rsplit("ENDSEC;", 1)
entities = [" ".join(one.split()) for one in re.findall(r"#\d+\s*=\s*(?:[^;']|'(?:[^']|'')*')*;", data)]
rnd = random.Random(f"{SEED} step")


def step_of(list_, head_=head):
    return head_ + "DATA;\n" + "\n".join(list_) + "\nENDSEC;" + tail


def renumbered(list_, by):
    return [re.sub(r"#(\d+)", lambda m: f"#{int(m.group(1)) + by}", one) for one in list_]


def scaled(one, by, radii=True):
    if "CARTESIAN_POINT" in one:
        return re.sub(r"\(([-+.\dE,\s]+)\)", lambda m: "(" + ",".join(f"{float(x) * by!r}" for x in m.group(1).split(",")) + ")", one)
    if radii and re.search(r"= ?(CIRCLE|CYLINDRICAL_SURFACE|CONICAL_SURFACE|TOROIDAL_SURFACE)", one):
        return re.sub(r",\s*([\d.]+(?:E[-+]?\d+)?)(?=[,)])", lambda m: f",{float(m.group(1)) * by!r}", one)
    return one


def index_of(kind, number):
    found = [i for i, one in enumerate(entities) if re.search(rf"= ?{kind}\(", one)]
    return found[number % len(found)]


def other_way(kind):
    """One entity of a kind with its last word, whether it runs as it is said, turned round."""
    at = index_of(kind, rnd.randrange(1000))
    turned = re.sub(r"\.([TF])\.\s*\)\s*;$", lambda m: "." + ("F" if m.group(1) == "T" else "T") + ".);", entities[at])
    return step_of([turned if i == at else one for i, one in enumerate(entities)])


def wider_alone(kind):
    at = index_of(kind, rnd.randrange(1000))
    wider = re.sub(r",\s*([\d.E+-]+)\s*\)\s*;$", lambda m: f",{float(m.group(1)) + rnd.choice([0.03, 0.5])!r});", entities[at])
    return step_of([wider if i == at else one for i, one in enumerate(entities)])


def corner_off():
    corner = re.search(r"VERTEX_POINT\('',(#\d+)\)", entities[index_of("VERTEX_POINT", rnd.randrange(1000))]).group(1)
    off = rnd.choice([0.05, -0.5])
    return step_of([re.sub(r"\(([-\d.E+]+),", lambda m: f"({float(m.group(1)) + off!r},", one, count=1) if one.startswith(f"{corner} =") else one for one in entities])


# A straight edge that says the wrong way of itself.
straight = [i for i, one in enumerate(entities) if re.search(r"= ?EDGE_CURVE\(", one)]
lines_of = {re.match(r"#\d+", one).group(0) for one in entities if re.search(r"= ?LINE\(", one)}
lines_of |= {re.match(r"#\d+", one).group(0) for one in entities if re.search(r"= ?(?:SURFACE|SEAM)_CURVE\(", one) and re.findall(r"#\d+", one)[1] in lines_of}
straight = [i for i in straight if re.findall(r"#\d+", entities[i])[3] in lines_of]


# Edges along circles: whole ones, which end where they begin, and arcs.
along = [i for i, one in enumerate(entities) if re.search(r"= ?EDGE_CURVE\(", one) and i not in straight]
whole = [i for i in along if len(set(re.findall(r"#\d+", entities[i])[1:3])) == 1]
arcs = [i for i in along if i not in whole]


def backwards(of):
    at = rnd.choice(of)
    return step_of([re.sub(r"\.([TF])\.\s*\)\s*;$", lambda m: "." + ("F" if m.group(1) == "T" else "T") + ".);", one) if i == at else one for i, one in enumerate(entities)])


for number in range(EACH):
    put("fault", "surface-wider-alone", "step", wider_alone("CYLINDRICAL_SURFACE"), number)
    put("fault", "circle-wider-alone", "step", wider_alone("CIRCLE"), number)
    said = re.sub(r"LENGTH_MEASURE\([^)]*\)", "LENGTH_MEASURE(5.)", wider_alone("CIRCLE"))
    put("fault", "circle-wider-and-said-inexact", "step", said, number)
    put("fault", "face-inside-out", "step", other_way("ADVANCED_FACE"), number)
    put("fault", "edge-the-other-way", "step", other_way("ORIENTED_EDGE"), number)
    put("fault", "bound-the-other-way", "step", other_way(rnd.choice(["FACE_BOUND", "FACE_OUTER_BOUND"]) if "FACE_OUTER_BOUND" in step else "FACE_BOUND"), number)
    put("fault", "edge-against-its-line", "step", backwards(straight), number)
    put("fault", "edge-against-its-circle", "step", backwards(whole), number)
    if arcs:
        put("fault", "arc-against-its-circle", "step", backwards(arcs), number)
    shell = re.search(r"MANIFOLD_SOLID_BREP\('[^']*',(#\d+)", step).group(1)
    itself = "#999999 = ORIENTED_CLOSED_SHELL('',*,#999999,.T.);"
    put("fault", "shell-of-itself", "step", step_of([re.sub(rf"(MANIFOLD_SOLID_BREP\('[^']*',){shell}\b", r"\1#999999", one) for one in entities] + [itself]), number)
    put("fault", "open-shell", "step", step_of([one.replace("CLOSED_SHELL", "OPEN_SHELL") for one in entities]), number)
    put("fault", "corner-off", "step", corner_off(), number)
    put("fault", "renamed", "step", step.replace("'Fen plate'", f"'Fen plate {number}'"), number)
    put("fault", "repainted", "step", re.sub(r"COLOUR_RGB\('',([\d.]+)", lambda m: f"COLOUR_RGB('',{float(m.group(1)) * rnd.choice([0.9, 0.5]):.6f}", step), number)
    put("fault", "unit", "step", step.replace("SI_UNIT(.MILLI.,.METRE.)", rnd.choice(["SI_UNIT(.CENTI.,.METRE.)", "SI_UNIT($,.METRE.)"])), number)
    put("fault", "scaled", "step", step_of([scaled(one, rnd.choice([1.01, 25.4])) if number % 2 else scaled(one, 25.4) for one in entities]), number)
    some = rnd.choice([r for r in re.findall(r"CYLINDRICAL_SURFACE\('',#\d+,([\d.]+)\)", data)])
    wider = float(some) + rnd.choice([0.05, 0.5])
    put("fault", "radius", "step", re.sub(rf"((?:CYLINDRICAL_SURFACE|CIRCLE)\('',#\d+,){re.escape(some)}\)", lambda m: f"{m.group(1)}{wider!r})", step), number)
    at = index_of("CLOSED_SHELL", 0)
    faces = re.findall(r"#\d+", entities[at])[1:]
    gone = rnd.choice(faces)
    less = list(entities)
    less[at] = re.sub(rf"{gone},|,{gone}(?=\))", "", less[at], count=1)
    put("fault", "face-gone", "step", step_of(less), number)
    at = index_of("MANIFOLD_SOLID_BREP", 0)
    put("fault", "body-gone", "step", step_of([one for i, one in enumerate(entities) if i != at]), number)
    missing = index_of("DIRECTION", rnd.randrange(50))
    put("fault", "reference-missing", "step", step_of([one for i, one in enumerate(entities) if i != missing]), number)
    put("fault", "cut-off", "step", step[: rnd.randrange(2000, len(step) - 40)], number)
    place = index_of("AXIS2_PLACEMENT_3D", 0)
    point = re.search(r"AXIS2_PLACEMENT_3D\('',(#\d+)", entities[index_of("AXIS2_PLACEMENT_3D", 1 + rnd.randrange(30))]).group(1)
    moved = [re.sub(r"\(([-\d.E+]+),", lambda m: f"({float(m.group(1)) + rnd.choice([0.5, 2])!r},", one, count=1) if one.startswith(f"{point} =") else one for one in entities]
    # A plane moved within itself says the same: only round things are moved.
    used = [one for one in entities if re.search(rf"= ?(CIRCLE|CYLINDRICAL_SURFACE|CONICAL_SURFACE|TOROIDAL_SURFACE)\(", one)]
    if any(point in entities[i] and re.match(r"#\d+", entities[i]).group(0) in " ".join(used) for i in range(len(entities)) if "AXIS2_PLACEMENT_3D" in entities[i] and point + "," in entities[i]):
        put("fault", "placed-elsewhere", "step", step_of(moved), number)
put("same", "renumbered", "step", step_of(renumbered(entities, 5000)), 0)
mixed = list(entities)
rnd.shuffle(mixed)
put("same", "one-line-each", "step", step_of(entities), 0)
put("same", "head", "step", step_of(entities, re.sub(r"FILE_NAME\([^;]*;", "FILE_NAME('somebody''s','2020-01-01T00:00:00',('A'),('B'),'C','D','E');", head)), 0)
put("same", "notes", "step", step_of([f"/* {i} */ {one}" for i, one in enumerate(entities)]), 0)
put("same", "crlf", "step", step.replace("\n", "\r\n"), 0)
put("same", "spaces", "step", step_of([re.sub(r",(?=#)", " , ", one) for one in entities]), 0)

print(json.dumps(names))
