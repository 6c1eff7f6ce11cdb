"""Spoils a DXF copy, and re-writes it without harm, by ezdxf and by its text, neither of which shares anything with ours.

Takes a.dxf in this folder, a seed and how often each; writes fault-*.dxf and same-*.dxf, and prints their names.
"""
import io
import json
import math
import random
import re
import sys

import ezdxf
from ezdxf.math import Matrix44

SEED, EACH = int(sys.argv[1]), int(sys.argv[2])
SOURCE = open("a.dxf", "rb").read().decode("utf-8")
R12 = "AC1009" in SOURCE
names = []


def put(which, name, words, number):
    path = f"{which}-{name}-{number}.dxf"
    with open(path, "wb") as out:
        out.write(words if isinstance(words, bytes) else words.encode("utf-8"))
    names.append(path)


def load():
    return ezdxf.read(io.StringIO(SOURCE))


def written(doc):
    out = io.StringIO()
    doc.write(out)
    return out.getvalue()


acts = {"fault": {}, "same": {}}


def act(which, name, later=False):
    """Done to the drawing as ezdxf reads it. @param later only where the version is not R12"""
    def keep(do):
        if later and R12:
            return do
        def run(rnd):
            doc = load()
            done = do(doc, doc.modelspace(), rnd)
            if done == "idle":
                return None
            # ezdxf writes this group in no version that is written here.
            return re.sub(r"\n *39\n0.125\n", "\n 60\n1\n", written(doc)) if done == "hide" else written(doc)
        acts[which][name] = run
        return do
    return keep


def words(which, name, later=False):
    """Done to the text of the file."""
    def keep(do):
        if not (later and R12):
            acts[which][name] = lambda rnd: do(SOURCE, rnd)
        return do
    return keep


def entities(space, types="LINE CIRCLE ARC LWPOLYLINE POLYLINE SPLINE"):
    return [e for e in space if e.dxftype() in types.split()]


def lines(space):
    return [e for e in space if e.dxftype() in ("LWPOLYLINE", "POLYLINE", "LINE")]


def texts(space):
    return list(space.query("TEXT"))


# ---------------------------------------------------------------- what is drawn
def simple(name, do, pick=entities, which="fault", later=False):
    @act(which, name, later)
    def run(doc, space, rnd):
        found = pick(space)
        if not found:
            return "idle"
        return do(rnd.choice(found), rnd, doc, space)


simple("moved", lambda e, r, d, s: e.translate(0.03, 0, 0) and None)
simple("moved far", lambda e, r, d, s: e.translate(20, 5, 0) and None)
simple("turned", lambda e, r, d, s: e.transform(Matrix44.z_rotate(0.05)) and None)
simple("larger", lambda e, r, d, s: e.transform(Matrix44.scale(1.01, 1.01, 1)) and None)
simple("mirrored", lambda e, r, d, s: e.transform(Matrix44.scale(-1, 1, 1)) and None)
simple("gone", lambda e, r, d, s: s.delete_entity(e))
simple("twice", lambda e, r, d, s: s.add_entity(e.copy()))
simple("another colour", lambda e, r, d, s: e.dxf.set("color", 30))
simple("another layer", lambda e, r, d, s: e.dxf.set("layer", "Elsewhere"))
simple("raised", lambda e, r, d, s: e.translate(0, 0, 2) and None, lambda s: [e for e in entities(s) if e.dxftype() in ("LINE", "CIRCLE", "ARC")])
simple("elevated", lambda e, r, d, s: e.dxf.set("elevation", 3), lambda s: entities(s, "LWPOLYLINE"))
simple("thick", lambda e, r, d, s: e.dxf.set("thickness", 2), lambda s: entities(s, "LINE CIRCLE ARC LWPOLYLINE POLYLINE"))
simple("tilted", lambda e, r, d, s: e.dxf.set("extrusion", (0, 0.5, 0.866)), lambda s: entities(s, "CIRCLE ARC LWPOLYLINE"))
simple("from behind", lambda e, r, d, s: e.dxf.set("extrusion", (0, 0, -1)), lambda s: entities(s, "CIRCLE LWPOLYLINE"))
simple("wider line", lambda e, r, d, s: e.dxf.set("lineweight", 140), later=True)
if "AC1018" in SOURCE:
    simple("see-through", lambda e, r, d, s: setattr(e, "transparency", 0.5))
    simple("exact colour", lambda e, r, d, s: setattr(e, "rgb", (12, 200, 30)))
simple("wide polyline", lambda e, r, d, s: e.dxf.set("const_width", 1.5), lambda s: entities(s, "LWPOLYLINE"))
simple("widening polyline", lambda e, r, d, s: e.dxf.set("default_end_width", 1.5), lambda s: entities(s, "POLYLINE"))
simple("opened", lambda e, r, d, s: e.close(False), lambda s: [e for e in entities(s, "LWPOLYLINE POLYLINE") if e.is_closed])
simple("bent", lambda e, r, d, s: e.vertices[0].dxf.set("bulge", 0.4), lambda s: [e for e in entities(s, "POLYLINE")])


@act("fault", "wide vertices", later=True)
def wide_vertices(doc, space, rnd):
    one = rnd.choice(entities(space, "LWPOLYLINE"))
    with one.points("xyseb") as points:
        points[:] = [(x, y, 0.5, 0.5, b) for x, y, _, _, b in points]


@act("fault", "a corner moved")
def corner(doc, space, rnd):
    one = rnd.choice(entities(space, "LWPOLYLINE POLYLINE"))
    if one.dxftype() == "POLYLINE":
        v = rnd.choice(one.vertices)
        v.dxf.location = v.dxf.location + (0.1, 0.05, 0)
    else:
        with one.points("xyseb") as points:
            i = rnd.randrange(len(points))
            x, y, *rest = points[i]
            points[i] = (x + 0.1, y + 0.05, *rest)


@act("fault", "dashed")
def dashed(doc, space, rnd):
    if "DASH" not in doc.linetypes:
        doc.linetypes.add("DASH", [1.5, 1.0, -0.5], description="- -")
    rnd.choice(entities(space)).dxf.linetype = "DASH"


@act("fault", "dashed by its layer")
def dashed_layer(doc, space, rnd):
    doc.linetypes.add("DASH", [1.5, 1.0, -0.5], description="- -")
    doc.layers.get(rnd.choice(entities(space)).dxf.layer).dxf.linetype = "DASH"


for name, change in {
    "retyped": lambda t: t.dxf.set("text", t.dxf.text + "x"), "a letter": lambda t: t.dxf.set("text", "Q" + t.dxf.text[1:]), "capitals": lambda t: t.dxf.set("text", t.dxf.text.upper()),
    "underlined": lambda t: t.dxf.set("text", "%%u" + t.dxf.text), "overlined": lambda t: t.dxf.set("text", "%%o" + t.dxf.text), "struck": lambda t: t.dxf.set("text", "%%k" + t.dxf.text),
    "higher": lambda t: t.dxf.set("height", t.dxf.height * 1.05), "narrower": lambda t: t.dxf.set("width", 0.9), "slanted": lambda t: t.dxf.set("oblique", 12),
    "backwards": lambda t: t.dxf.set("text_generation_flag", 2), "upside down": lambda t: t.dxf.set("text_generation_flag", 4), "turned": lambda t: t.dxf.set("rotation", t.dxf.get("rotation", 0) + 3),
    "elsewhere": lambda t: t.translate(0.5, 0, 0), "raised off": lambda t: t.translate(0, 0, 4), "tilted": lambda t: t.dxf.set("extrusion", (0, 0.5, 0.866)), "thick": lambda t: t.dxf.set("thickness", 1),
    "about its middle": lambda t: (t.dxf.set("halign", 1), t.dxf.set("align_point", t.dxf.insert)), "of another style": lambda t: t.dxf.set("style", "OTHER"),
    "gone": lambda t: t.doc.modelspace().delete_entity(t), "shorter at its end": lambda t: t.dxf.set("text", t.dxf.text[:-1]),
}.items():
    def do(e, r, d, s, change=change):
        if "OTHER" not in d.styles:
            d.styles.add("OTHER", font="other.ttf")
        change(e)
    simple(f"text {name}", do, texts)

for name, change in {
    "narrow": lambda s: s.dxf.set("width", 0.8), "slanted": lambda s: s.dxf.set("oblique", 15), "backwards": lambda s: s.dxf.set("generation_flags", 2),
    "vertical": lambda s: s.dxf.set("flags", 4), "of another font": lambda s: s.dxf.set("font", "other.shx"),
}.items():
    def run(doc, space, rnd, change=change):
        change(doc.styles.get(rnd.choice(texts(space)).dxf.style))
    act("fault", f"style {name}")(run)

# ---------------------------------------------------------------- layers, header, what comes in
for name, change in {
    "frozen": lambda l: l.freeze(), "off": lambda l: l.off(), "of another colour": lambda l: setattr(l, "color", 33 if l.color >= 0 else -33),
    "renamed": lambda l: l.rename("Another"),
}.items():
    def run(doc, space, rnd, change=change):
        change(doc.layers.get(rnd.choice(entities(space)).dxf.layer))
    act("fault", f"layer {name}")(run)


@act("fault", "layer see-through", later=True)
def layer_through(doc, space, rnd):
    doc.layers.get(rnd.choice(entities(space)).dxf.layer).transparency = 0.5


@act("fault", "layer not plotted", later=True)
def layer_plot(doc, space, rnd):
    doc.layers.get(rnd.choice(entities(space)).dxf.layer).dxf.plot = 0


@act("fault", "layer of wide lines", later=True)
def layer_wide(doc, space, rnd):
    doc.layers.get(rnd.choice(entities(space)).dxf.layer).dxf.lineweight = 200


for unit in (1, 2, 3, 5, 6, 7, 8, 9, 10, 13, 14, 15, 16, 18, 20, 21, 22, 23):
    def run(doc, space, rnd, unit=unit):
        doc.header["$INSUNITS"] = unit
    act("fault", f"unit {unit}", later=True)(run)
for name, (variable, value) in {"fills as outlines": ("$FILLMODE", 0), "texts as boxes": ("$QTEXTMODE", 1)}.items():
    def run(doc, space, rnd, variable=variable, value=value):
        doc.header[variable] = value
    act("fault", name)(run)


@words("fault", "a variable that nobody knows")
def variable(text, rnd):
    return text.replace("  9\n$ACADVER", "  9\n$SHOWHALF\n 70\n1\n  9\n$ACADVER", 1).replace("9\n$ACADVER", "9\n$SHOWHALF\n70\n1\n9\n$ACADVER", 1)


@words("fault", "a group that nobody knows")
def group(text, rnd):
    return re.sub(r"(\n *0\nCIRCLE\n)", r"\1  299\n1\n", text, count=1)


def added(name, make, later=False):
    act("fault", f"added {name}", later)(lambda doc, space, rnd: make(doc, space, rnd) and None)


added("line", lambda d, s, r: s.add_line((r.uniform(5, 90), 5), (100, 60), dxfattribs={"layer": "cut"}))
added("point", lambda d, s, r: s.add_point((50, 50)))
added("solid", lambda d, s, r: s.add_solid([(0, 0), (9, 0), (0, 9), (9, 9)]))
added("trace", lambda d, s, r: s.add_trace([(0, 0), (9, 0), (0, 9), (9, 9)]))
added("face", lambda d, s, r: s.add_3dface([(0, 0), (9, 0), (9, 9), (0, 9)]))
added("words in lines", lambda d, s, r: s.add_mtext("More", dxfattribs={"insert": (40, 40), "char_height": 5}), later=True)
added("ray", lambda d, s, r: s.add_ray((5, 5), (1, 1)), later=True)
added("endless line", lambda d, s, r: s.add_xline((5, 5), (1, 1)), later=True)
added("leader", lambda d, s, r: s.add_leader([(5, 5), (20, 20)]), later=True)
added("ellipse", lambda d, s, r: s.add_ellipse((60, 50), (10, 0), 0.4), later=True)
added("spline", lambda d, s, r: s.add_spline([(5, 5), (20, 30), (50, 10)]), later=True)
added("body of another program", lambda d, s, r: s.add_body(), later=True)
added("measure", lambda d, s, r: s.add_linear_dim((0, 0), (10, 0), (60, 0)).render())
added("area cut out", lambda d, s, r: s.add_wipeout([(5, 5), (60, 60)]) if not R12 else s.add_line((0, 0), (50, 50)), later=True)


@act("fault", "added hatch", later=True)
def hatch(doc, space, rnd):
    space.add_hatch(color=2).paths.add_polyline_path([(10, 10), (60, 10), (60, 40)], is_closed=True)


@act("fault", "added block")
def block(doc, space, rnd):
    doc.blocks.new("MORE").add_circle((0, 0), 4)
    space.add_blockref("MORE", (rnd.uniform(20, 90), 50))


@act("fault", "added block that is raised")
def block_raised(doc, space, rnd):
    doc.blocks.new("EMPTY")
    one = rnd.choice(entities(space, "CIRCLE"))
    inner = doc.blocks.new("LIFT")
    inner.add_entity(one.copy())
    space.delete_entity(one)
    space.add_blockref("LIFT", (0, 0, 5))


@act("fault", "in a block that is tilted")
def block_tilted(doc, space, rnd):
    one = rnd.choice(entities(space, "CIRCLE"))
    doc.blocks.new("TILT").add_entity(one.copy())
    space.delete_entity(one)
    space.add_blockref("TILT", (0, 0), dxfattribs={"extrusion": (0, 0.5, 0.866)})


@act("fault", "in a block that is narrowed")
def block_narrow(doc, space, rnd):
    one = rnd.choice(entities(space, "CIRCLE"))
    doc.blocks.new("NARROW").add_entity(one.copy())
    space.delete_entity(one)
    space.add_blockref("NARROW", (0, 0), dxfattribs={"xscale": 0.99})


@act("fault", "drawing of another file")
def other_file(doc, space, rnd):
    doc.add_xref_def("other.dxf", "OTHER_FILE")  # term-guard: standard (DXF reference, BLOCK group 70)
    space.add_blockref("OTHER_FILE", (0, 0))


@act("fault", "picture of another file", later=True)
def image(doc, space, rnd):
    space.add_image(doc.add_image_def("other.png", (64, 64)), (10, 10), (20, 20))


@act("fault", "all in inches by numbers")
def inches(doc, space, rnd):
    for e in list(space):
        e.transform(Matrix44.scale(1 / 25.4))


@words("fault", "invisible")
def invisible(text, rnd):
    return re.sub(r"(\n *0\nCIRCLE\n)", r"\1 60\n1\n", text, count=1)


@words("fault", "cut short")
def short(text, rnd):
    return text[: rnd.randrange(len(text) // 2, len(text) - 60)]


@words("fault", "comma for point")
def comma(text, rnd):
    return re.sub(r"\n(-?\d+)\.(\d+)\n", r"\n\1,\2\n", text)


@words("fault", "a digit")
def digit(text, rnd):
    at = text.rindex("ENTITIES")
    # The place that the head of a polyline of R12 states is none: it is always 0, and nobody reads it (DXF R12, POLYLINE).
    places = [m for m in re.finditer(r"\n *[12][01]\n(\d+\.?\d*)\n", text) if m.start() > at and float(m.group(1))]
    m = rnd.choice(places)
    old = m.group(1)
    return text[: m.start(1)] + str((int(old[0]) + 1) % 9 + 1) + old[1:] + text[m.end(1):]


# ---------------------------------------------------------------- stretches
@act("fault", "a side again")
def side(doc, space, rnd):
    one = rnd.choice(entities(space, "LWPOLYLINE POLYLINE"))
    points = [(v[0], v[1]) for v in (one.get_points("xy") if one.dxftype() == "LWPOLYLINE" else [v.dxf.location for v in one.vertices])]
    space.add_line(points[0], points[1], dxfattribs={"layer": one.dxf.layer, "color": one.dxf.color})


@act("fault", "a piece of a line again")
def piece(doc, space, rnd):
    one = rnd.choice(entities(space, "LINE"))
    a, b = one.dxf.start, one.dxf.end
    space.add_line(a, a.lerp(b, 0.05), dxfattribs={"layer": one.dxf.layer, "color": one.dxf.color})


@act("fault", "a line with a gap")
def gap(doc, space, rnd):
    one = rnd.choice(entities(space, "LINE"))
    a, b = one.dxf.start, one.dxf.end
    more = one.copy()
    one.dxf.end = a.lerp(b, 0.5)
    more.dxf.start = a.lerp(b, 0.5 + 0.08 / (b - a).magnitude)
    space.add_entity(more)


# ---------------------------------------------------------------- without harm
@act("same", "saved again")
def again(doc, space, rnd):
    pass


@act("same", "audited")
def audited(doc, space, rnd):
    doc.audit()


@act("same", "in another order")
def order(doc, space, rnd):
    found = list(space)
    rnd.shuffle(found)
    for e in found:
        space.unlink_entity(e)
    for e in found:
        space.add_entity(e)


@act("same", "layer names in small letters")
def small(doc, space, rnd):
    for e in space:
        e.dxf.layer = e.dxf.layer.lower() if rnd.random() < 0.5 else e.dxf.layer.upper()


@act("same", "polyline as lines")
def exploded(doc, space, rnd):
    one = rnd.choice([e for e in entities(space, "LWPOLYLINE POLYLINE")])
    one.explode()


@act("same", "line the other way")
def turned(doc, space, rnd):
    one = rnd.choice(entities(space, "LINE"))
    one.dxf.start, one.dxf.end = one.dxf.end, one.dxf.start


@act("same", "line in two")
def two(doc, space, rnd):
    one = rnd.choice(entities(space, "LINE"))
    more = one.copy()
    middle = one.dxf.start.lerp(one.dxf.end)
    one.dxf.end, more.dxf.start = middle, middle
    space.add_entity(more)


@act("same", "circle as arcs")
def arcs(doc, space, rnd):
    one = rnd.choice(entities(space, "CIRCLE"))
    for a, b in ((0, 120), (120, 300), (300, 360)):
        arc = space.add_arc(one.dxf.center, one.dxf.radius, a, b)
        arc.dxf.layer = one.dxf.layer
        for name in ("color", "lineweight", "linetype"):
            if one.dxf.hasattr(name):
                arc.dxf.set(name, one.dxf.get(name))
    space.delete_entity(one)


@act("same", "noise in z")
def noise(doc, space, rnd):
    for e in entities(space, "LINE CIRCLE ARC"):
        e.translate(0, 0, 1e-9)


@act("same", "direction straight up")
def up(doc, space, rnd):
    for e in entities(space, "CIRCLE ARC LWPOLYLINE"):
        e.dxf.extrusion = (1e-12, 0, 1)


@act("same", "widths of nothing", later=True)
def no_width(doc, space, rnd):
    for e in entities(space, "LWPOLYLINE"):
        with e.points("xyseb") as points:
            points[:] = [(x, y, 0.0, 0.0, b) for x, y, _, _, b in points]


@act("same", "something on a frozen layer")
def frozen(doc, space, rnd):
    doc.layers.add("Cold").freeze()
    space.add_circle((50, 50), 20, dxfattribs={"layer": "Cold"})


@act("same", "a block on a frozen layer")
def frozen_block(doc, space, rnd):
    doc.layers.add("Cold").freeze()
    doc.blocks.new("ICE").add_circle((0, 0), 20, dxfattribs={"layer": "cut"})
    space.add_blockref("ICE", (50, 50), dxfattribs={"layer": "Cold"})


@act("same", "something invisible")
def unseen(doc, space, rnd):
    space.add_circle((50, 50), 20, dxfattribs={"thickness": 0.125})
    return "hide"


@act("same", "a block that nobody uses")
def unused(doc, space, rnd):
    doc.blocks.new("NOBODY").add_circle((0, 0), 20)


@act("same", "another file that nobody uses")
def unused_file(doc, space, rnd):
    doc.add_xref_def("other.dxf", "OTHER_FILE")  # term-guard: standard (DXF reference, BLOCK group 70)


@act("same", "in a block on layer 0")
def zero(doc, space, rnd):
    one = rnd.choice(entities(space, "CIRCLE"))
    inner = one.copy()
    inner.dxf.layer = "0"
    doc.blocks.new("ZERO").add_entity(inner)
    layer = one.dxf.layer
    space.delete_entity(one)
    space.add_blockref("ZERO", (0, 0), dxfattribs={"layer": layer})


@act("same", "in a block moved there and back")
def moved_block(doc, space, rnd):
    one = rnd.choice(entities(space, "CIRCLE"))
    inner = one.copy()
    inner.translate(-30, 7, 0)
    doc.blocks.new("AWAY").add_entity(inner)
    layer = one.dxf.layer
    space.delete_entity(one)
    space.add_blockref("AWAY", (30, -7), dxfattribs={"layer": layer})


@act("same", "in nested blocks")
def nested(doc, space, rnd):
    one = rnd.choice(entities(space, "CIRCLE"))
    doc.blocks.new("INNER").add_entity(one.copy())
    doc.blocks.new("OUTER").add_blockref("INNER", (0, 0))
    space.delete_entity(one)
    space.add_blockref("OUTER", (0, 0))


@act("same", "notes of another program")
def notes(doc, space, rnd):
    doc.appids.add("NOTES")
    for e in space:
        e.set_xdata("NOTES", [(1000, "seen"), (1070, 3), (1040, 2.5)])


@act("same", "an unused layer, style and line type")
def more(doc, space, rnd):
    doc.layers.add("Unused", color=3)
    doc.styles.add("UNUSED", font="x.shx")
    doc.linetypes.add("UNUSED", [1.0, 0.5, -0.5])


@act("same", "variables of views and times")
def variables(doc, space, rnd):
    doc.header["$LWDISPLAY" if not R12 else "$REGENMODE"] = 1
    doc.header["$TEXTSIZE"] = 7
    doc.header["$DIMSCALE"] = 3
    # How angles are typed in: those of the file are what they are.
    doc.header["$ANGDIR"] = 1


@act("same", "on a sheet layout", later=True)
def layout(doc, space, rnd):
    doc.layout("Layout1").add_circle((5, 5), 3)


@act("same", "line widths as its layer", later=True)
def by_layer(doc, space, rnd):
    for e in space:
        if e.dxf.hasattr("lineweight") and e.dxf.lineweight == doc.layers.get(e.dxf.layer).dxf.lineweight:
            e.dxf.lineweight = -1


@act("same", "a group of objects", later=True)
def grouped(doc, space, rnd):
    with doc.groups.new("some").edit_data() as group:
        group.extend(list(space)[:3])


@words("same", "line ends")
def ends(text, rnd):
    return text.replace("\r\n", "\n").replace("\n", "\r\n")


@words("same", "blanks before codes")
def blanks(text, rnd):
    rows = text.split("\n")
    return "\n".join(row if i % 2 else row.strip().rjust(3) for i, row in enumerate(rows))


@words("same", "comment")
def comment(text, rnd):
    return text.replace("999\n", "999\nSaved by somebody\n999\n", 1)


@words("same", "byte order mark")
def mark(text, rnd):
    return b"\xef\xbb\xbf" + text.encode()


for which, all_acts in acts.items():
    for name, run in all_acts.items():
        for number in range(EACH):
            try:
                result = run(random.Random(f"{SEED} {name} {number}"))
            except Exception as error:
                raise RuntimeError(f"{which} {name}: {error!r}") from error
            if result is not None:
                put(which, name.replace("/", " "), result, number)
print(json.dumps(names))
