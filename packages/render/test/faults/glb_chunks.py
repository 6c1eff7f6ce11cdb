"""Copies in glTF, read and written by json and struct alone."""
import json
import struct

from outsider import Cannot
from shells import SHELL_FAULTS, SHELL_SAME

JSON, BIN = 0x4E4F534A, 0x004E4942


def padded(data, by):
    return data + by * (-len(data) % 4)


class Glb:
    """The document as .doc; corners in mm with z upwards; what stands in numbers is written anew for each change."""

    def __init__(self, rnd):
        self.rnd = rnd
        data = open("a.glb", "rb").read()
        length = struct.unpack_from("<I", data, 12)[0]
        self.doc = json.loads(data[20:20 + length])
        blob = data[28 + length:]
        places = struct.unpack_from(f"<{3 * self.doc['accessors'][0]['count']}f", blob, self.doc["bufferViews"][0].get("byteOffset", 0))
        self.corners = [[1000 * places[i], -1000 * places[i + 2], 1000 * places[i + 1]] for i in range(0, len(places), 3)]
        numbers = struct.unpack_from(f"<{self.doc['accessors'][1]['count']}I", blob, self.doc["bufferViews"][1]["byteOffset"])
        self.triangles = [list(numbers[i:i + 3]) for i in range(0, len(numbers), 3)]
        self.index = "<I", 5125
        self.matrix = lambda p: p
        self.then = lambda doc: None
        self.text = lambda text: text
        self.chunks = lambda chunks: chunks
        self.after = lambda data: data
        self.first = b""
        self.apart = None

    @property
    def node(self):
        return self.doc["nodes"][0]

    @property
    def primitive(self):
        return self.doc["meshes"][0]["primitives"][0]

    @property
    def material(self):
        if not self.doc.get("materials"):
            raise Cannot
        return self.doc["materials"][0]

    def numbers(self):
        places = [self.matrix([p[0] / 1000, p[2] / 1000, -p[1] / 1000]) for p in self.corners]
        flat = b"".join(struct.pack("<3f", *p) for p in places)
        if self.apart:
            flat = b"".join(struct.pack("<3f", *p) + b"\0" * (self.apart - 12) for p in places)
        order = b"".join(struct.pack(self.index[0], c) for t in self.triangles for c in t)
        return places, flat, order

    def bytes(self):
        places, flat, order = self.numbers()
        single = [[struct.unpack("<f", struct.pack("<f", x))[0] for x in p] for p in places]
        doc = self.doc
        doc["accessors"][0].update(count=len(places), min=[min(p[k] for p in single) for k in range(3)], max=[max(p[k] for p in single) for k in range(3)])
        doc["accessors"][1].update(count=3 * len(self.triangles), componentType=self.index[1])
        first = padded(self.first, b"\0")
        data = first + padded(flat, b"\0") + padded(order, b"\0")
        doc["bufferViews"][0].update(byteOffset=len(first), byteLength=len(flat))
        if self.apart:
            doc["bufferViews"][0]["byteStride"] = self.apart
        doc["bufferViews"][1].update(byteOffset=len(first) + len(padded(flat, b"\0")), byteLength=len(order))
        doc["buffers"][0]["byteLength"] = len(data)
        self.blob = data
        self.then(self)
        text = padded(self.text(json.dumps(doc)).encode(), b" ")
        chunks = self.chunks([(JSON, text), (BIN, self.blob)])
        body = b"".join(struct.pack("<II", len(part), kind) + part for kind, part in chunks)
        return self.after(struct.pack("<III", 0x46546C67, 2, 12 + len(body)) + body)


def then(change):
    """Once numbers and their places are written."""
    return lambda one: setattr(one, "then", change)


def node(**said):
    return lambda one: one.node.update(said)


def material(**said):
    return lambda one: one.material.update(said)


def metal(**said):
    return lambda one: one.material.setdefault("pbrMetallicRoughness", {}).update(said)


def doc(**said):
    return lambda one: one.doc.update(said)


def primitive(**said):
    return lambda one: one.primitive.update(said)


def accessor(at, **said):
    return then(lambda one: one.doc["accessors"][at].update(said))


def view(at, change):
    return then(lambda one: change(one.doc["bufferViews"][at]))


def more(key, step):
    def change(of):
        of[key] = of.get(key, 0) + step
    return change


def colour(at, by):
    def change(one):
        factor = one.material["pbrMetallicRoughness"]["baseColorFactor"]
        factor[at] = factor[at] + by if factor[at] + by <= 1 else factor[at] - by
    return change


def another_node(**said):
    def change(one):
        one.doc["nodes"].append({"mesh": 0, "name": one.node.get("name", ""), **said})
        one.doc["scenes"][0]["nodes"].append(len(one.doc["nodes"]) - 1)
    return change


def held_by(**said):
    """The node stands below another one."""
    def change(one):
        one.doc["nodes"].append({"children": [0], **said})
        one.doc["scenes"][0]["nodes"] = [len(one.doc["nodes"]) - 1]
    return change


def other_scene(one):
    one.doc["nodes"].append({"mesh": 0, "translation": [0.1, 0, 0], "name": one.node.get("name", "")})
    one.doc["scenes"].append({"nodes": [len(one.doc["nodes"]) - 1]})
    one.doc["scene"] = 1


def another_primitive(one):
    one.doc["meshes"][0]["primitives"].append({"attributes": {"POSITION": 0}, "mode": 0})


def targets(one):
    one.primitive["targets"] = [{"POSITION": 0}]
    one.doc["meshes"][0]["weights"] = [0.5]


def picture(one):
    one.doc["images"] = [{"uri": "grey.png"}]
    one.doc["textures"] = [{"source": 0}]
    one.material["pbrMetallicRoughness"]["baseColorTexture"] = {"index": 0}


def attribute(name):
    return lambda one: one.primitive["attributes"].__setitem__(name, 0)


def light(one):
    one.doc["extensionsUsed"] = ["KHR_lights_punctual"]
    one.doc["extensions"] = {"KHR_lights_punctual": {"lights": [{"type": "point"}]}}
    one.node["extensions"] = {"KHR_lights_punctual": {"light": 0}}


def extended(one):
    one.material["extensions"] = {"KHR_materials_unlit": {}}
    one.doc["extensionsUsed"] = ["KHR_materials_unlit"]


def moving(one):
    one.doc["animations"] = [{"channels": [{"sampler": 0, "target": {"node": 0, "path": "translation"}}], "samplers": [{"input": 0, "output": 0}]}]


def instead(old, new):
    def change(text):
        if old not in text:
            raise Cannot
        return text.replace(old, new, 1)
    return lambda one: setattr(one, "text", change)


def numbers_of(at, value):
    """One number of the places is another one."""
    def change(one):
        data = bytearray(one.blob)
        struct.pack_into("<f", data, one.doc["bufferViews"][0]["byteOffset"] + 4 * at, value)
        one.blob = bytes(data)
    return then(change)


def corner_beyond(one):
    data = bytearray(one.blob)
    struct.pack_into("<I", data, one.doc["bufferViews"][1]["byteOffset"], len(one.corners) + 5)
    one.blob = bytes(data)


GLB_FAULTS = {
    **SHELL_FAULTS,
    "renamed": node(name="Fen plates"),
    "nameless": lambda one: one.node.pop("name") and None,
    "shifted": node(translation=[0.00005, 0, 0]),
    "turned-by-its-node": node(rotation=[0, 0.0871557, 0, 0.9961947]),
    "larger-by-its-node": node(scale=[1, 1.005, 1]),
    "none-by-its-node": node(scale=[0, 0, 0]),
    "matrix": node(matrix=[1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0.001, 0, 0, 1]),
    "matrix-and-place": lambda one: one.node.update(matrix=[1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1], translation=[0.01, 0, 0]),
    "matrix-with-depth": node(matrix=[1, 0, 0, 0.5, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1]),
    "held-elsewhere": held_by(translation=[0, 0.001, 0]),
    "another-node": another_node(translation=[0.1, 0, 0]),
    "another-node-in-place": another_node(),
    "other-scene": other_scene,
    "scene-empty": lambda one: one.doc["scenes"][0].update(nodes=[]),
    "scene-of-nothing": lambda one: one.doc["scenes"][0].update(nodes=[7]),
    "scene-unknown": doc(scene=5),
    "without-mesh": lambda one: one.node.pop("mesh") is None,
    "node-in-itself": node(children=[0]),
    "redder": colour(0, 0.02),
    "bluer": colour(2, 0.2),
    "see-through-factor": colour(3, -0.5),
    "see-through": material(alphaMode="BLEND"),
    "masked": material(alphaMode="MASK", alphaCutoff=1.0),
    "glowing": material(emissiveFactor=[0.4, 0, 0]),
    "picture": picture,
    "picture-of-glow": material(emissiveTexture={"index": 0}),
    "unlit": extended,
    "without-material": lambda one: one.primitive.pop("material") is None,
    "corners-coloured": attribute("COLOR_0"),
    "corners-joined": attribute("JOINTS_0"),
    "corners-of-somebody": attribute("_HEAT"),
    "targets": targets,
    "skin": lambda one: (one.node.update(skin=0), one.doc.update(skins=[{"joints": [0]}]))[0],
    "moving": moving,
    "camera": lambda one: (one.node.update(camera=0), one.doc.update(cameras=[{"type": "perspective", "perspective": {"yfov": 1, "znear": 1}}]))[0],
    "light": light,
    "extension-required": doc(extensionsUsed=["SOMEBODYS_mesh"], extensionsRequired=["SOMEBODYS_mesh"]),
    "extension-of-mesh": primitive(extensions={"SOMEBODYS_mesh": {"bufferView": 0}}),
    "as-lines": primitive(mode=1),
    "as-points": primitive(mode=0),
    "as-strip": primitive(mode=5),
    "as-fan": primitive(mode=6),
    "as-nothing": primitive(mode=9),
    "points-besides": another_primitive,
    "without-order": lambda one: one.primitive.pop("indices") is None,
    "without-places": lambda one: one.primitive.update(attributes={}),
    "order-shorter": accessor(1, count=3),
    "order-in-small-numbers": accessor(1, componentType=5123),
    "places-less": then(lambda one: one.doc["accessors"][0].update(count=one.doc["accessors"][0]["count"] - 1)),
    "places-in-shorts": accessor(0, componentType=5122, normalized=True),
    "places-later": accessor(0, byteOffset=4),
    "places-sparse": accessor(0, sparse={"count": 1, "indices": {"bufferView": 1, "componentType": 5125}, "values": {"bufferView": 0}}),
    "places-from-nowhere": then(lambda one: one.doc["accessors"][0].pop("bufferView") is None),
    "bounds-that-lie": accessor(0, min=[0, 0, 0], max=[0.001, 0.001, 0.001]),
    "bounds-gone": then(lambda one: [one.doc["accessors"][0].pop(k) for k in ("min", "max")] and None),
    "view-later": view(0, more("byteOffset", 4)),
    "view-too-long": view(1, more("byteLength", 400)),
    "view-apart": view(0, more("byteStride", 16)),
    "buffer-elsewhere": then(lambda one: one.doc["buffers"][0].update(uri="plate.bin")),
    "buffer-longer": then(lambda one: one.doc["buffers"][0].update(byteLength=one.doc["buffers"][0]["byteLength"] + 4000)),
    "no-number": numbers_of(4, float("nan")),
    "without-end": numbers_of(4, float("inf")),
    "corner-beyond": then(corner_beyond),
    "of-the-future": lambda one: one.doc["asset"].update(version="3.0"),
    "for-the-future": lambda one: one.doc["asset"].update(minVersion="2.9"),
    "said-twice": instead('"mesh": 0', '"translation": [0.1, 0, 0], "mesh": 0, "translation": [0, 0, 0]'),
    "no-json": instead('"nodes"', 'nodes'),
    "two-documents": lambda one: setattr(one, "chunks", lambda c: [c[0], (JSON, c[0][1].replace(b'"Fen plate"', b'"Fen slate"')), c[1]]),
    "two-lists-of-numbers": lambda one: setattr(one, "chunks", lambda c: [c[0], (BIN, b"\0" * len(c[1][1])), c[1]]),
    "bytes-behind": lambda one: setattr(one, "after", lambda data: data + b"and more"),
    "cut-half": lambda one: setattr(one, "after", lambda data: data[: len(data) // 2]),
    "cut-little": lambda one: setattr(one, "after", lambda data: data[:-4]),
    "container-of-1": lambda one: setattr(one, "after", lambda data: data[:4] + b"\1" + data[5:]),
}


def half(one):
    """Corners twice as far away, and a node that halves them."""
    one.matrix = lambda p: [2 * x for x in p]
    one.node["scale"] = [0.5, 0.5, 0.5]


def turned(one):
    one.matrix = lambda p: [p[2], p[1], -p[0]]
    one.node["rotation"] = [0, -0.7071067811865476, 0, 0.7071067811865476]


def by_matrix(one):
    one.matrix = lambda p: [p[1], p[2], p[0]]
    one.node["matrix"] = [0, 1, 0, 0, 0, 0, 1, 0, 1, 0, 0, 0, 0, 0, 0, 1]


def small_order(one):
    if len(one.corners) > 65_000:
        raise Cannot
    one.index = "<H", 5123


def as_text(one):
    import base64

    def change(self):
        self.doc["buffers"][0]["uri"] = "data:application/octet-stream;base64," + base64.b64encode(self.blob).decode()
    one.then = change
    one.after = lambda data: data[20:20 + struct.unpack_from("<I", data, 12)[0]]


def primitives(one):
    """The mesh in two pieces."""
    def change(self):
        whole = self.doc["accessors"][1]
        cut = 3 * (len(self.triangles) // 2)
        self.doc["accessors"].append({**whole, "byteOffset": cut * 4, "count": whole["count"] - cut})
        whole["count"] = cut
        self.doc["meshes"][0]["primitives"].append({**self.primitive, "indices": len(self.doc["accessors"]) - 1})
    one.then = change


GLB_SAME = {
    **SHELL_SAME,
    "halved": half,
    "turned-and-back": turned,
    "by-matrix": by_matrix,
    "held-in-place": held_by(),
    "held-and-back": lambda one: (held_by(translation=[0.5, 0, 0])(one), one.node.update(translation=[-0.5, 0, 0]))[-1],
    "small-order": small_order,
    "numbers-apart": lambda one: setattr(one, "apart", 24),
    "bytes-before": lambda one: setattr(one, "first", b"somebody's bytes"),
    "as-text": as_text,
    "in-two-pieces": primitives,
    "indented": lambda one: setattr(one, "text", lambda text: json.dumps(json.loads(text), indent=2)),
    "sorted": lambda one: setattr(one, "text", lambda text: json.dumps(json.loads(text), sort_keys=True)),
    "made-by": lambda one: one.doc["asset"].update(generator="somebody", copyright="Lantern Fen"),
    "extras": lambda one: one.node.update(extras={"made": "by somebody"}),
    "shiny": metal(metallicFactor=0.7, roughnessFactor=0.2),
    "both-sides": material(doubleSided=True),
    "opaque": material(alphaMode="OPAQUE"),
    "material-named": material(name="primer"),
    "mesh-named": lambda one: one.doc["meshes"][0].update(name="shell"),
    "scene-named": lambda one: one.doc["scenes"][0].update(name="all"),
    "chunk-of-somebody": lambda one: setattr(one, "chunks", lambda c: [*c, (0x12345678, b"note")]),
    "without-mode": lambda one: one.primitive.pop("mode", None) and None,
    "without-targets-of-views": then(lambda one: [v.pop("target", None) for v in one.doc["bufferViews"]] and None),
    "scene-unsaid": lambda one: one.doc.pop("scene") is None,
}
