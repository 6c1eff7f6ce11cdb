"""Copies in 3MF, read and written by zip and lxml alone."""
import io
import zipfile

from lxml import etree

from outsider import Cannot, Package
from shells import SHELL_FAULTS, SHELL_SAME

NS = "http://schemas.microsoft.com/3dmanufacturing/core/2015/02"  # term-guard: standard (3MF core 1.3, 1.2)
MODEL = "3D/3dmodel.model"
START = "http://schemas.microsoft.com/3dmanufacturing/2013/01/3dmodel"  # term-guard: standard (3MF core 1.3, 2.1.1)


def q(name):
    return f"{{{NS}}}{name}"


class ThreeMf(Package):
    def __init__(self, rnd):
        super().__init__("a.3mf", rnd)
        self.model = self.xml(MODEL)
        self.mesh = self.model.find(f".//{q('mesh')}")
        self.corners = [[float(v.get(k)) for k in "xyz"] for v in self.model.iter(q("vertex"))]
        self.triangles = [[int(t.get(k)) for k in ("v1", "v2", "v3")] for t in self.model.iter(q("triangle"))]
        self.form = "%.9g"
        self.then = lambda one: None
        self.after = lambda data: data
        self.twice = None

    def object(self):
        return self.model.find(f".//{q('object')}")

    def item(self):
        return self.model.find(f".//{q('item')}")

    def bytes(self):
        vertices, triangles = self.mesh.find(q("vertices")), self.mesh.find(q("triangles"))
        vertices[:], triangles[:] = [], []
        for p in self.corners:
            etree.SubElement(vertices, q("vertex"), **{k: self.form % x for k, x in zip("xyz", p)})
        for t in self.triangles:
            etree.SubElement(triangles, q("triangle"), **{f"v{k + 1}": str(c) for k, c in enumerate(t)})
        self.then(self)
        data = super().bytes()
        if self.twice:
            out = io.BytesIO(data)
            with zipfile.ZipFile(out, "a", zipfile.ZIP_DEFLATED) as z:
                z.writestr(self.twice, self.parts[self.twice].replace(b'x="', b'x="1'))
            data = out.getvalue()
        return self.after(data)


def model(**said):
    def change(one):
        for name, value in said.items():
            if value is None:
                one.model.attrib.pop(name, None)
            else:
                one.model.set(name, value)
    return change


def of_object(**said):
    return lambda one: [one.object().set(name, value) for name, value in said.items()] and None


def of_item(**said):
    return lambda one: [one.item().set(name, value) for name, value in said.items()] and None


def moved(words):
    return of_item(transform=words)


def then(change):
    """Changed once corners and triangles are written."""
    return lambda one: setattr(one, "then", change)


def some(one, name):
    return one.rnd.choice(list(one.model.iter(q(name))))


def told(name, attribute, value):
    def change(one):
        found = some(one, name)
        if value is None:
            del found.attrib[attribute]
        else:
            found.set(attribute, value)
    return then(change)


def scaled(unit, by):
    def change(one):
        one.model.set("unit", unit)
        one.form = "%.12g"
        for p in one.corners:
            p[:] = [x / by for x in p]
    return change


def item_gone(one):
    one.item().getparent().remove(one.item())


def item_twice(one):
    parent = one.item().getparent()
    etree.SubElement(parent, q("item"), objectid=one.item().get("objectid"), transform="1 0 0 0 1 0 0 0 1 100 0 0")


def as_component(transform):
    def change(one):
        whole = one.object()
        holder = etree.SubElement(whole.getparent(), q("object"), id="77", name=whole.get("name"), type="model")
        for name in ("pid", "pindex"):
            if whole.get(name):
                holder.set(name, whole.get(name))
        etree.SubElement(etree.SubElement(holder, q("components")), q("component"), objectid=whole.get("id"), transform=transform)
        one.item().set("objectid", "77")
    return change


def component_of_itself(one):
    etree.SubElement(etree.SubElement(one.object(), q("components")), q("component"), objectid=one.object().get("id"))


def material(change):
    def run(one):
        base = one.model.find(f".//{q('base')}")
        if base is None:
            raise Cannot
        change(one, base)
    return run


def triangle_painted(one):
    materials = one.model.find(f".//{q('basematerials')}")
    etree.SubElement(materials, q("base"), name="red", displaycolor="#FF0000FF")
    painted = some(one, "triangle")
    painted.set("pid", materials.get("id"))
    painted.set("p1", "1")


def element(name, parent, ns=NS, **said):
    def change(one):
        found = one.model if parent == "model" else one.model.find(f".//{q(parent)}")
        etree.SubElement(found, f"{{{ns}}}{name}", **said)
    return change


def in_another_namespace(one):
    """A corner in a namespace that is somebody else's is none."""
    vertex = some(one, "vertex")
    vertex.tag = "{urn:somebody}vertex"


def model_gone(one):
    del one.trees[MODEL], one.parts[MODEL]


def start_elsewhere(one):
    """The package begins with another model."""
    other = one.parts[MODEL].replace(b'x="', b'x="1')
    one.parts["3D/other.model"] = other
    one.parts["_rels/.rels"] = one.parts["_rels/.rels"].replace(b"/3D/3dmodel.model", b"/3D/other.model")


def two_starts(one):
    one.parts["3D/other.model"] = one.parts[MODEL]
    extra = f'<Relationship Target="/3D/other.model" Id="r9" Type="{START}"/></Relationships>'.encode()
    one.parts["_rels/.rels"] = one.parts["_rels/.rels"].replace(b"</Relationships>", extra)


def object_twice(one):
    """A second object by the name of the first."""
    whole = one.object()
    other = etree.fromstring(etree.tostring(whole))
    whole.getparent().append(other)


def another_object(one):
    first = one.object()
    other = etree.fromstring(etree.tostring(first))
    other.set("id", "88")
    first.getparent().append(other)
    etree.SubElement(one.item().getparent(), q("item"), objectid="88")


def not_built(one):
    other = etree.fromstring(etree.tostring(one.object()))
    other.set("id", "88")
    one.object().getparent().append(other)


def cut(share):
    return lambda one: setattr(one, "after", lambda data: data[: int(share * len(data))])


THREE_FAULTS = {
    **SHELL_FAULTS,
    "inches": model(unit="inch"),
    "feet": model(unit="foot"),
    "microns": model(unit="micron"),
    "unit-unknown": model(unit="mile"),
    "extension-required": model(requiredextensions="b"),
    "attribute-unknown": model(something="1"),
    "renamed": of_object(name="Fen plates"),
    "nameless": of_object(name=""),
    "for-support": of_object(type="support"),
    "as-surface": of_object(type="surface"),
    "of-another-type": of_object(type="other"),
    "item-moved": moved("1 0 0 0 1 0 0 0 1 0.5 0 0"),
    "item-turned": moved("0 1 0 -1 0 0 0 0 1 0 0 0"),
    "item-larger": moved("1.01 0 0 0 1.01 0 0 0 1.01 0 0 0"),
    "item-mirrored": moved("-1 0 0 0 1 0 0 0 1 0 0 0"),
    "item-flat": moved("1 0 0 0 1 0 0 0 0 0 0 0"),
    "item-of-eleven-numbers": moved("1 0 0 0 1 0 0 0 1 0 0"),
    "item-not-printed": of_item(printable="0"),
    "item-not-printed-in-words": of_item(printable="false"),
    "item-of-nothing": of_item(objectid="99"),
    "item-gone": item_gone,
    "item-twice": item_twice,
    "component-moved": as_component("1 0 0 0 1 0 0 0 1 0 0 0.5"),
    "component-of-itself": component_of_itself,
    "another-object": another_object,
    "object-twice": object_twice,
    "redder": material(lambda one, base: base.set("displaycolor", "#FF6F73FF")),
    "see-through": material(lambda one, base: base.set("displaycolor", base.get("displaycolor")[:7] + "80")),
    "colour-of-nothing": material(lambda one, base: base.set("displaycolor", "grey")),
    "colour-of-none": of_object(pindex="7"),
    "colour-gone": lambda one: [one.object().attrib.pop(k, None) for k in ("pid", "pindex")] and None,
    "triangle-painted": then(triangle_painted),
    "corner-without-z": told("vertex", "z", None),
    "corner-in-words": told("vertex", "x", "ten"),
    "corner-empty": told("vertex", "x", ""),
    "corner-hexadecimal": told("vertex", "x", "0x10"),
    "corner-with-comma": told("vertex", "x", "1,5"),
    "corner-unknown": told("triangle", "v2", "99999999"),
    "corner-below-0": told("triangle", "v2", "-1"),
    "corner-in-parts": told("triangle", "v2", "1.5"),
    "corner-of-somebody": then(in_another_namespace),
    "bars": element("beamlattice", "mesh", "urn:somebody/bars", radius="1"),
    "layers": element("slicestack", "resources", "urn:somebody/layers", id="5"),
    "element-unknown": element("something", "resources"),
    "two-starts": two_starts,
    "start-elsewhere": start_elsewhere,
    "start-gone": then(model_gone),
    "entry-twice": lambda one: setattr(one, "twice", MODEL),
    "cut-half": cut(0.5),
    "cut-little": cut(0.995),
}

THREE_SAME = {
    **SHELL_SAME,
    "in-inches": scaled("inch", 25.4),
    "in-metres": scaled("meter", 1000),
    "in-centimetres": scaled("centimeter", 10),
    "in-microns": scaled("micron", 0.001),
    "unit-as-usual": model(unit=None),
    "exponents": lambda one: setattr(one, "form", "%.10e"),
    "many-digits": lambda one: setattr(one, "form", "%.15f"),
    "stored": lambda one: setattr(one, "how", zipfile.ZIP_STORED),
    "entries-mixed": lambda one: setattr(one, "order", sorted(one.parts, reverse=True)),
    "as-component": as_component("1 0 0 0 1 0 0 0 1 0 0 0"),
    "in-place-by-words": moved("1 0 0 0 1 0 0 0 1 0 0 0"),
    "component-and-back": lambda one: (as_component("1 0 0 0 1 0 0 0 1 3 0 0")(one), moved("1 0 0 0 1 0 0 0 1 -3 0 0")(one))[-1],
    "metadata": lambda one: one.model.insert(0, etree.Element(q("metadata"), name="Title")),
    "printed": of_item(printable="1"),
    "part-number": of_object(partnumber="LF-12"),
    "type-as-usual": lambda one: one.object().attrib.pop("type", None) and None,
    "notes": lambda one: one.model.insert(0, etree.Comment("somebody's")),
    "colour-in-small-letters": material(lambda one, base: base.set("displaycolor", base.get("displaycolor").lower())),
    "colour-without-alpha": material(lambda one, base: base.set("displaycolor", base.get("displaycolor")[:7])),
    "colour-renamed": material(lambda one, base: base.set("name", "primer")),
    "thumbnail": lambda one: one.parts.__setitem__("Metadata/thumbnail.png", b"\x89PNG\r\n\x1a\n"),
    "language": lambda one: one.model.set("{http://www.w3.org/XML/1998/namespace}lang", "de"),
}
