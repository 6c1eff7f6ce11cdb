"""Spoils exact solids, and re-writes them without harm, entity by entity.

python3 entities.py SEED EACH
Takes a.step in this folder; writes fault-* and same-*, and prints their names. Read and written by exchange.py alone.
"""
import math

from exchange import Exchange, Ref, Typed, number
from outsider import Cannot, told, write

OTHER = {".T.": ".F.", ".F.": ".T."}


def away(one, least=0.03):
    return one.rnd.choice([least, 0.1, 0.6, 4]) * one.rnd.choice([-1, 1])


# What is where.

def axes_of(one, name):
    """The system of axes of a surface or curve, as one of its own."""
    values = one.args(name)
    values[1] = one.own(values[1])
    return values[1]


def moved(one, name, by):
    """A surface or curve at another place: by mm along each axis of the file."""
    axes = axes_of(one, name)
    place = one.numbers(one.args(axes)[1])
    one.set(axes, 1, one.point(*(a + b for a, b in zip(place, by))))


def z_of(one, name):
    axes = one.args(one.args(name)[1])
    return one.numbers(axes[2]) if isinstance(axes[2], Ref) else [0, 0, 1]


def across(z):
    """Some direction that stands upright on another."""
    other = [1, 0, 0] if abs(z[0]) < 0.5 else [0, 1, 0]
    out = [z[1] * other[2] - z[2] * other[1], z[2] * other[0] - z[0] * other[2], z[0] * other[1] - z[1] * other[0]]
    size = math.hypot(*out)
    return [x / size for x in out]


def sideways(kind):
    def change(one):
        name = one.one(kind)
        side = across(z_of(one, name))
        by = away(one)
        moved(one, name, [x * by for x in side])
    return change


def along(kind):
    def change(one):
        name = one.one(kind)
        by = away(one)
        moved(one, name, [x * by for x in z_of(one, name)])
    return change


def tilted(kind):
    def change(one):
        name = one.one(kind)
        z, side = z_of(one, name), across(z_of(one, name))
        angle = one.rnd.choice([0.01, 0.1, 0.7])
        axes = axes_of(one, name)
        one.set(axes, 2, one.direction(*(math.cos(angle) * a + math.sin(angle) * b for a, b in zip(z, side))))
    return change


def sized(kind, at):
    def change(one):
        name = one.one(kind)
        values = one.args(name)
        values[at] = number(float(values[at]) + one.rnd.choice([0.03, 0.2, 1.5]))
    return change


def line_elsewhere(one):
    name = one.one("LINE")
    if len(one.args(one.args(name)[1])[1]) != 3:
        raise Cannot
    along_it = one.numbers(one.args(one.args(name)[2])[1])
    side, by = across(along_it), away(one)
    place = one.numbers(one.args(name)[1])
    one.set(name, 1, one.point(*(a + by * b for a, b in zip(place, side))))


def solid_lines(one):
    return [name for name in one.all("LINE") if len(one.args(one.args(name)[1])[1]) == 3]


def line_tilted(one):
    name = one.pick(solid_lines(one))
    vector = one.args(name)[2]
    along_it = one.numbers(one.args(vector)[1])
    angle = one.rnd.choice([0.02, 0.3])
    turned = one.direction(*(math.cos(angle) * a + math.sin(angle) * b for a, b in zip(along_it, across(along_it))))
    one.set(name, 2, one.add("VECTOR", "''", turned, "1."))


def corner_elsewhere(one):
    corner = one.one("VERTEX_POINT")
    place = one.numbers(one.args(corner)[1])
    place[one.rnd.randrange(3)] += away(one)
    one.set(corner, 1, one.point(*place))


def all_points(change):
    def run(one):
        for name in one.all("CARTESIAN_POINT"):
            values = one.args(name)
            if len(values[1]) == 3:
                values[1] = [number(x) for x in change(one, [float(x) for x in values[1]])]
    return run


def with_radii(by):
    """Everything larger, radii, too."""
    def run(one):
        for name, own in one.entities.items():
            for kind, values in own:
                if kind == "CARTESIAN_POINT" and len(values[1]) == 3:
                    values[1] = [number(float(x) * by) for x in values[1]]
                if kind in ("CIRCLE", "CYLINDRICAL_SURFACE", "CONICAL_SURFACE") and len(one.args(one.args(name)[1])) == 4:
                    values[2] = number(float(values[2]) * by)
                if kind == "TOROIDAL_SURFACE":
                    values[2], values[3] = number(float(values[2]) * by), number(float(values[3]) * by)
    return run


def without_traces(one):
    """Edges say their place in space alone: no curves in the plane of a surface's own numbers."""
    for name in one.all("SURFACE_CURVE", "SEAM_CURVE", "INTERSECTION_CURVE"):
        plain = one.args(name)[1]
        for user in one.users(name):
            values = one.args(user)
            values[:] = [plain if isinstance(x, Ref) and x == name else x for x in values]
    gone = True
    while gone:
        used = {int(x) for own in one.entities.values() for _, values in own for x in flat(values)}
        gone = [name for name in one.all("SURFACE_CURVE", "SEAM_CURVE", "PCURVE", "DEFINITIONAL_REPRESENTATION") if int(name) not in used]
        for name in gone:
            del one.entities[name]


def flat(values):
    for value in values:
        if isinstance(value, Ref):
            yield value
        elif isinstance(value, (list, Typed)):
            yield from flat(value)


# How things hang together.

def flag(kind, at):
    def change(one):
        name = one.one(kind)
        values = one.args(name)
        values[at] = OTHER[values[at]]
    return change


def bounds(one):
    return one.all("FACE_BOUND", "FACE_OUTER_BOUND")


def shell(one):
    return one.one("CLOSED_SHELL")


def loops_exchanged(one):
    # Of two faces: the bounds of one stand in no order.
    first, second = [one.rnd.choice(one.args(face)[1]) for face in one.rnd.sample(one.all("ADVANCED_FACE"), 2)]
    a, b = one.args(first), one.args(second)
    a[1], b[1] = b[1], a[1]


def surfaces_exchanged(one):
    first, second = one.rnd.sample(one.all("ADVANCED_FACE"), 2)
    a, b = one.args(first), one.args(second)
    if one.entities[a[2]] == one.entities[b[2]]:
        raise Cannot
    a[2], b[2] = b[2], a[2]


def bound_gone(one):
    face = one.pick(name for name in one.all("ADVANCED_FACE") if len(one.args(name)[1]) > 1)
    bounds_of = one.args(face)[1]
    bounds_of.pop(one.rnd.randrange(len(bounds_of)))


def face_gone(one):
    faces = one.args(shell(one))[1]
    faces.pop(one.rnd.randrange(len(faces)))


def face_twice(one):
    faces = one.args(shell(one))[1]
    faces.append(one.rnd.choice(faces))


def face_copied(one):
    faces = one.args(shell(one))[1]
    faces.append(one.own(one.rnd.choice(faces)))


def edge_gone(one):
    edges = one.args(one.pick(name for name in one.all("EDGE_LOOP") if len(one.args(name)[1]) > 2))[1]
    edges.pop(one.rnd.randrange(len(edges)))


def edges_out_of_order(one):
    edges = one.args(one.pick(name for name in one.all("EDGE_LOOP") if len(one.args(name)[1]) > 3))[1]
    edges[0], edges[1] = edges[1], edges[0]


def loop_backwards(one):
    loop = one.pick(name for name in one.all("EDGE_LOOP") if len(one.args(name)[1]) > 2)
    one.args(loop)[1].reverse()


def edge_to_elsewhere(one):
    edge = one.one("EDGE_CURVE")
    values = one.args(edge)
    others = [name for name in one.all("VERTEX_POINT") if name not in values]
    values[one.rnd.choice([1, 2])] = one.pick(others)


def edge_ends_exchanged(one):
    edge = one.pick(name for name in one.all("EDGE_CURVE") if one.args(name)[1] != one.args(name)[2])
    values = one.args(edge)
    values[1], values[2] = values[2], values[1]


def curve_of_another(one):
    first, second = one.rnd.sample(one.all("EDGE_CURVE"), 2)
    one.set(first, 3, one.args(second)[3])


def face_alone_elsewhere(one):
    """All corners of one face are moved, and what it shares with others is not there."""
    for corner in one.rnd.sample(one.all("VERTEX_POINT"), 4):
        place = one.numbers(one.args(corner)[1])
        one.set(corner, 1, one.point(place[0] + 0.5, place[1], place[2]))


# Bodies.

def brep(one):
    return one.one("MANIFOLD_SOLID_BREP")


def holder(one):
    return one.one("ADVANCED_BREP_SHAPE_REPRESENTATION")


def as_surfaces(one):
    name = brep(one)
    shell_ = one.args(name)[1]
    one.entities[name] = [["SHELL_BASED_SURFACE_MODEL", ["''", [shell_]]]]


def second_body(one):
    other = one.add("MANIFOLD_SOLID_BREP", "''", one.args(brep(one))[1])
    one.args(holder(one))[1].append(other)


def box(one, low, high, inwards=False):
    """A shell of six plane faces."""
    corners = [[(low, high)[i >> k & 1][k] for k in range(3)] for i in range(8)]
    points = [one.add("VERTEX_POINT", "''", one.point(*corner)) for corner in corners]
    made, faces = {}, []
    for ring in ([0, 2, 3, 1], [4, 5, 7, 6], [0, 1, 5, 4], [2, 6, 7, 3], [0, 4, 6, 2], [1, 3, 7, 5]):
        edges = []
        for a, b in zip(ring, ring[1:] + ring[:1]):
            if (b, a) in made:
                edges.append(one.add("ORIENTED_EDGE", "''", "*", "*", made[(b, a)], ".F."))
                continue
            way = [q - p for p, q in zip(corners[a], corners[b])]
            size = math.hypot(*way)
            line = one.add("LINE", "''", one.point(*corners[a]), one.add("VECTOR", "''", one.direction(*(x / size for x in way)), "1."))
            made[(a, b)] = one.add("EDGE_CURVE", "''", points[a], points[b], line, ".T.")
            edges.append(one.add("ORIENTED_EDGE", "''", "*", "*", made[(a, b)], ".T."))
        a, b, c = (corners[k] for k in ring[:3])
        u, v = [q - p for p, q in zip(a, b)], [q - p for p, q in zip(b, c)]
        z = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]]
        size = math.hypot(*z)
        plane = one.add("PLANE", "''", one.axes(a, [k / size for k in z], [k / math.hypot(*u) for k in u]))
        bound = one.add("FACE_OUTER_BOUND", "''", one.add("EDGE_LOOP", "''", edges), ".T.")
        faces.append(one.add("ADVANCED_FACE", "''", [bound], plane, ".T."))
    made_shell = one.add("CLOSED_SHELL", "''", faces)
    return one.add("ORIENTED_CLOSED_SHELL", "''", "*", made_shell, ".F.") if inwards else made_shell


def box_beside(one):
    size = one.rnd.choice([0.2, 3])
    one.args(holder(one))[1].append(one.add("MANIFOLD_SOLID_BREP", "''", box(one, (80, 0, 0), (80 + size, size, size))))


def box_inside(one):
    size = one.rnd.choice([0.2, 1])
    name = brep(one)
    own = one.args(name)
    hollow = box(one, (18, -12, 2), (18 + size, -12 + size, 2 + size), inwards=True)
    one.entities[name] = [["BREP_WITH_VOIDS", [own[0], own[1], [hollow]]]]


def box_as_surfaces(one):
    one.args(holder(one))[1].append(one.add("SHELL_BASED_SURFACE_MODEL", "''", [box(one, (80, 0, 0), (83, 3, 3))]))


def loose(make):
    def change(one):
        one.args(holder(one))[1].append(make(one))
    return change


def wire(one):
    return one.add("GEOMETRIC_CURVE_SET", "''", [one.add("CIRCLE", "''", one.axes((0, 0, 30)), "5.")])


def placed(place, z=(0, 0, 1), x=(1, 0, 0)):
    """The part stands within an assembly, at another place."""
    def change(one):
        held = holder(one)
        context = one.args(held)[2]
        shape = one.one("PRODUCT_DEFINITION_SHAPE")
        part = one.args(shape)[2]
        formation, wide = one.args(part)[2], one.args(part)[3]
        product = one.own(one.args(formation)[2])
        above = one.add("PRODUCT_DEFINITION", "'design'", "''", one.add("PRODUCT_DEFINITION_FORMATION", "''", "''", product), wide)
        origin, there = one.axes(), one.axes(place, z, x)
        whole = one.add("SHAPE_REPRESENTATION", "''", [origin, there], context)
        one.add("SHAPE_DEFINITION_REPRESENTATION", one.add("PRODUCT_DEFINITION_SHAPE", "''", "''", above), whole)
        use = one.add("NEXT_ASSEMBLY_USAGE_OCCURRENCE", "'1'", "'1'", "''", above, part, "$")
        of_use = one.add("PRODUCT_DEFINITION_SHAPE", "''", "''", use)
        moved_by = one.add("ITEM_DEFINED_TRANSFORMATION", "''", "''", origin, there)
        name = Ref(max(one.entities) + 1)
        one.entities[name] = [
            ["REPRESENTATION_RELATIONSHIP", ["''", "''", held, whole]],
            ["REPRESENTATION_RELATIONSHIP_WITH_TRANSFORMATION", [moved_by]],
            ["SHAPE_REPRESENTATION_RELATIONSHIP", []],
        ]
        one.add("CONTEXT_DEPENDENT_SHAPE_REPRESENTATION", name, of_use)
    return change


def mapped(place):
    """The part is shown by way of a map, at another place."""
    def change(one):
        held = holder(one)
        context = one.args(held)[2]
        other = one.add("SHAPE_REPRESENTATION", "''", [], context)
        map_ = one.add("REPRESENTATION_MAP", one.axes(), held)
        one.args(other)[1] = [one.add("MAPPED_ITEM", "''", map_, one.axes(place))]
        one.set(one.one("SHAPE_DEFINITION_REPRESENTATION"), 1, other)
    return change


# Units.

def length(prefix):
    def change(one):
        for name, own in one.entities.items():
            if any(kind == "LENGTH_UNIT" for kind, _ in own):
                for kind, values in own:
                    if kind == "SI_UNIT":
                        values[:] = [prefix, ".METRE."]
    return change


def inches(one, by=25.4):
    """The unit is made of another: so many millimetres of it."""
    for name, own in list(one.entities.items()):
        if not any(kind == "LENGTH_UNIT" for kind, _ in own):
            continue
        plain = Ref(max(one.entities) + 1)
        one.entities[plain] = [[kind, list(values)] for kind, values in own]
        measure = one.add("LENGTH_MEASURE_WITH_UNIT", Typed(("LENGTH_MEASURE", [number(by)])), plain)
        dimensions = one.add("DIMENSIONAL_EXPONENTS", "1.", "0.", "0.", "0.", "0.", "0.", "0.")
        one.entities[name] = [["CONVERSION_BASED_UNIT", ["'INCH'", measure]], ["LENGTH_UNIT", []], ["NAMED_UNIT", [dimensions]]]


def degrees(one):
    for name, own in list(one.entities.items()):
        if not any(kind == "PLANE_ANGLE_UNIT" for kind, _ in own):
            continue
        plain = Ref(max(one.entities) + 1)
        one.entities[plain] = [[kind, list(values)] for kind, values in own]
        measure = one.add("PLANE_ANGLE_MEASURE_WITH_UNIT", Typed(("PLANE_ANGLE_MEASURE", [number(math.pi / 180)])), plain)
        dimensions = one.add("DIMENSIONAL_EXPONENTS", *["0."] * 7)
        one.entities[name] = [["CONVERSION_BASED_UNIT", ["'DEGREE'", measure]], ["NAMED_UNIT", [dimensions]], ["PLANE_ANGLE_UNIT", []]]


def in_degrees(one):
    """Angles in degrees, and said so."""
    degrees(one)
    for name in one.all("CONICAL_SURFACE"):
        values = one.args(name)
        values[3] = number(math.degrees(float(values[3])))


def degrees_alone(one):
    if not one.all("CONICAL_SURFACE"):
        raise Cannot
    degrees(one)


def in_inches(one):
    # The numbers of a plane are lengths, too: what is not said in them need not be said again.
    without_traces(one)
    with_radii(1 / 25.4)(one)
    inches(one)


def in_metres(one):
    without_traces(one)
    with_radii(1 / 1000)(one)
    length("$")(one)


# Names and colours.

def words(kind, at, to):
    def change(one):
        one.set(one.one(kind), at, to)
    return change


def colour(at, by):
    def change(one):
        values = one.args(one.one("COLOUR_RGB"))
        old = float(values[at])
        values[at] = number(old + by if old + by <= 1 else old - by)
    return change


def colour_gone(one):
    item = one.one("STYLED_ITEM")
    del one.entities[item]
    for name in one.all("MECHANICAL_DESIGN_GEOMETRIC_PRESENTATION_REPRESENTATION"):
        del one.entities[name]


def colour_by_name(one):
    name = one.one("COLOUR_RGB")
    one.entities[name] = [["DRAUGHTING_PRE_DEFINED_COLOUR", ["'red'"]]]


def face_painted(one):
    style = one.args(one.one("STYLED_ITEM"))[1]
    one.add("OVER_RIDING_STYLED_ITEM", "''", style, one.one("ADVANCED_FACE"), one.one("STYLED_ITEM"))


def see_through(one):
    usage = one.one("SURFACE_SIDE_STYLE")
    rgb = one.one("COLOUR_RGB")
    clear = one.add("SURFACE_STYLE_TRANSPARENT", "0.9")
    one.args(usage)[1].append(one.add("SURFACE_STYLE_RENDERING_WITH_PROPERTIES", ".NORMAL_SHADING.", rgb, [clear]))


def hidden(one):
    one.add("INVISIBILITY", [one.one("STYLED_ITEM")])


def layer_hidden(one):
    one.add("INVISIBILITY", [one.add("PRESENTATION_LAYER_ASSIGNMENT", "'off'", "''", [brep(one)])])


def noted(one):
    one.add("GEOMETRIC_TOLERANCE", "'flat'", "''", "$", one.one("PRODUCT_DEFINITION_SHAPE"))


def unknown(one):
    one.add("SOMETHING_OF_SOMEBODYS", "''", brep(one))


def uncertain(one):
    for name in one.all("UNCERTAINTY_MEASURE_WITH_UNIT"):
        one.args(name)[0] = Typed(("LENGTH_MEASURE", [one.rnd.choice(["0.5", "20."])]))


def spline_pole(one):
    """A control point of a curve in space."""
    curves = [name for name in one.all("B_SPLINE_CURVE_WITH_KNOTS", "B_SPLINE_CURVE") if any(kind == "B_SPLINE_CURVE_WITH_KNOTS" and len(values) > 3 for kind, values in one.entities[name])]
    curves = [name for name in curves if len(one.args(one.args(name)[2][0])[1]) == 3]
    poles = one.args(one.pick(curves))[2]
    at = one.rnd.randrange(1, len(poles) - 1)
    place = one.numbers(poles[at])
    poles[at] = one.point(place[0] + away(one), *place[1:])


def reference_to_nothing(one):
    one.set(one.one("ORIENTED_EDGE"), 3, Ref(999_999))


def reference_of_another_kind(one):
    one.set(one.one("ORIENTED_EDGE"), 3, one.one("PRODUCT"))


def no_number(one):
    one.set(one.one("CYLINDRICAL_SURFACE"), 2, one.rnd.choice(["0.", "-3.", "$"]))


def entity_twice(one):
    one.tail = one.written(one.one("CARTESIAN_POINT")).replace(".", "1.", 1) + "\n" + one.tail


def second_data(one):
    one.tail = "ENDSEC;\nDATA;\n#990001=CARTESIAN_POINT('',(0.,0.,0.));\n#990002=GEOMETRIC_CURVE_SET('',(#990001));\n" + one.tail


STEP_FAULTS = {
    **{f"{kind.lower()}-sideways": sideways(kind) for kind in ("CYLINDRICAL_SURFACE", "CONICAL_SURFACE")},
    **{f"{kind.lower()}-along": along(kind) for kind in ("PLANE", "CONICAL_SURFACE")},
    **{f"{kind.lower()}-tilted": tilted(kind) for kind in ("PLANE", "CYLINDRICAL_SURFACE", "CONICAL_SURFACE")},
    "cylinder-wider": sized("CYLINDRICAL_SURFACE", 2),
    "cone-wider": sized("CONICAL_SURFACE", 2),
    "cone-steeper": sized("CONICAL_SURFACE", 3),
    "ring-wider": sized("TOROIDAL_SURFACE", 2),
    "ring-thicker": sized("TOROIDAL_SURFACE", 3),
    "ring-along": along("TOROIDAL_SURFACE"),
    "line-elsewhere": line_elsewhere,
    "line-tilted": line_tilted,
    "corner-elsewhere": corner_elsewhere,
    "some-corners-elsewhere": face_alone_elsewhere,
    "pole-elsewhere": spline_pole,
    "all-moved": all_points(lambda one, p: [p[0] + 0.03, p[1], p[2]]),
    "all-higher": all_points(lambda one, p: [p[0], p[1], p[2] + 0.1]),
    "all-mirrored": all_points(lambda one, p: [-p[0], p[1], p[2]]),
    "all-larger": with_radii(1.002),
    "all-ten-times": with_radii(10),
    "all-flat": all_points(lambda one, p: [p[0], p[1], p[2] * 0.99]),
    "all-sheared": all_points(lambda one, p: [p[0] + 0.01 * p[2], p[1], p[2]]),
    "all-rounded": all_points(lambda one, p: [float(round(x)) + 0.4 for x in p]),
    "face-turned": flag("ADVANCED_FACE", 3),
    "edge-turned": flag("ORIENTED_EDGE", 4),
    "bound-turned": flag("FACE_BOUND", 2),
    "loops-exchanged": loops_exchanged,
    "surfaces-exchanged": surfaces_exchanged,
    "bound-gone": bound_gone,
    "face-gone": face_gone,
    "face-twice": face_twice,
    "face-copied": face_copied,
    "edge-gone": edge_gone,
    "edges-out-of-order": edges_out_of_order,
    "loop-backwards": loop_backwards,
    "edge-to-elsewhere": edge_to_elsewhere,
    "edge-ends-exchanged": edge_ends_exchanged,
    "curve-of-another": curve_of_another,
    "as-surfaces": as_surfaces,
    "second-body": second_body,
    "box-beside": box_beside,
    "box-inside": box_inside,
    "box-as-surfaces": box_as_surfaces,
    "wire": loose(wire),
    "in-an-assembly-elsewhere": placed((0, 0, 5)),
    "in-an-assembly-turned": placed((0, 0, 0), (0, 0, 1), (0, 1, 0)),
    "mapped-elsewhere": mapped((3, 0, 0)),
    "metres": length("$"),
    "centimetres": length(".CENTI."),
    "inches-alone": inches,
    "inch-of-25": lambda one: (with_radii(1 / 25.4)(one), inches(one, 25)),
    "degrees-alone": degrees_alone,
    "part-renamed": words("PRODUCT", 1, "'Fen plates'"),
    "part-nameless": lambda one: (words("PRODUCT", 0, "''")(one), words("PRODUCT", 1, "''")(one)),
    "redder": colour(1, 0.02),
    "bluer": colour(3, 0.3),
    "colour-gone": colour_gone,
    "colour-by-name": colour_by_name,
    "face-painted": face_painted,
    "see-through": see_through,
    "hidden": hidden,
    "layer-hidden": layer_hidden,
    "tolerance-noted": noted,
    "unknown": unknown,
    "to-nothing": reference_to_nothing,
    "to-another-kind": reference_of_another_kind,
    "no-radius": no_number,
    "entity-twice": entity_twice,
    "second-data": second_data,
}


# What changes nothing.

def in_order(how):
    def change(one):
        one.order = how(one, list(one.entities))
    return change


def renamed(step):
    def change(one):
        name = {old: Ref(7 + i * step) for i, old in enumerate(one.entities)}

        def again(value):
            if isinstance(value, Ref):
                return name[value]
            if isinstance(value, Typed):
                return Typed((value[0], again(value[1])))
            return [again(x) for x in value] if isinstance(value, list) else value

        one.entities = {name[old]: [[kind, again(values)] for kind, values in own] for old, own in one.entities.items()}
    return change


def loops_begin_elsewhere(one):
    for loop in one.all("EDGE_LOOP"):
        edges = one.args(loop)[1]
        turn = one.rnd.randrange(len(edges))
        edges[:] = edges[turn:] + edges[:turn]


def faces_mixed(one):
    one.rnd.shuffle(one.args(shell(one))[1])


def bounds_mixed(one):
    for face in one.all("ADVANCED_FACE"):
        one.rnd.shuffle(one.args(face)[1])


def loops_run_backwards(one):
    """Each loop is run along the other way round, and its bound says so."""
    for bound in bounds(one):
        values = one.args(bound)
        edges = one.args(values[1])[1]
        edges.reverse()
        for edge in edges:
            own = one.args(edge)
            own[4] = OTHER[own[4]]
        values[2] = OTHER[values[2]]


def points_apart(one):
    """Who names a point names one of its own."""
    for name, own in list(one.entities.items()):
        for kind, values in own:
            if kind in ("AXIS2_PLACEMENT_3D", "LINE", "VERTEX_POINT") and isinstance(values[1], Ref):
                values[1] = one.own(values[1])


def points_together(one):
    """Points at one place, and directions, become one."""
    first, name_of = {}, {}
    for name in one.all("CARTESIAN_POINT", "DIRECTION"):
        name_of[name] = first.setdefault(one.written(name).split("=", 1)[1], name)

    def again(value):
        if isinstance(value, Ref):
            return name_of.get(value, value)
        if isinstance(value, Typed):
            return Typed((value[0], again(value[1])))
        return [again(x) for x in value] if isinstance(value, list) else value

    one.entities = {name: [[kind, again(values)] for kind, values in own] for name, own in one.entities.items() if name_of.get(name, name) == name}


def long_directions(one):
    for name in one.all("DIRECTION"):
        values = one.args(name)
        values[1] = [number(5 * float(x)) for x in values[1]]


def long_vectors(one):
    without_traces(one)
    for name in one.all("VECTOR"):
        one.args(name)[2] = "3."


def lines_backwards(one):
    """Lines run the other way, and their edges say so."""
    without_traces(one)
    for edge in one.all("EDGE_CURVE"):
        values = one.args(edge)
        if one.kind(values[3]) != "LINE":
            continue
        line = one.own(values[3])
        along_it = one.numbers(one.args(one.args(line)[2])[1])
        one.args(line)[2] = one.add("VECTOR", "''", one.direction(*(-x for x in along_it)), "1.")
        values[3], values[4] = line, OTHER[values[4]]


def edges_backwards(one):
    """Edges begin where they ended, and those who run along them say so."""
    without_traces(one)
    for edge in one.all("EDGE_CURVE"):
        values = one.args(edge)
        if values[1] == values[2]:
            continue
        values[1], values[2] = values[2], values[1]
        values[4] = OTHER[values[4]]
        for user in one.users(edge):
            own = one.args(user)
            own[4] = OTHER[own[4]]


def planes_turned_over(one):
    """Planes that show their other side, and faces that say so."""
    without_traces(one)
    for face in one.all("ADVANCED_FACE"):
        values = one.args(face)
        if one.kind(values[2]) != "PLANE":
            continue
        plane = values[2] = one.own(values[2])
        axes = axes_of(one, plane)
        one.set(axes, 2, one.direction(*(-x for x in one.numbers(one.args(axes)[2]))))
        # Its bounds run about the outside of the face, whichever side the surface shows.
        values[3] = OTHER[values[3]]


def planes_from_elsewhere(one):
    """Planes that begin at other places of their own."""
    without_traces(one)
    for name in one.all("PLANE"):
        by = one.rnd.choice([3, 50])
        moved(one, name, [by * x for x in across(z_of(one, name))])


def lines_from_elsewhere(one):
    without_traces(one)
    for name in one.all("LINE"):
        values = one.args(name)
        if len(one.args(values[1])[1]) == 3:
            along_it = one.numbers(one.args(values[2])[1])
            values[1] = one.point(*(a + 7 * b for a, b in zip(one.numbers(values[1]), along_it)))


def outer_bounds(one):
    for face in one.all("ADVANCED_FACE"):
        if len(one.args(face)[1]) == 1:
            one.entities[one.args(face)[1][0]][0][0] = "FACE_OUTER_BOUND"


def integers(one):
    """Numbers in other digits."""
    for name in one.all("CARTESIAN_POINT"):
        values = one.args(name)
        values[1] = [f"{float(x):.15E}".replace("E+", "E") for x in values[1]]


def trembling(one):
    all_points(lambda one, p: [x + one.rnd.uniform(-2e-7, 2e-7) for x in p])(one)


def people(one):
    person = one.add("PERSON", "'17'", "'Okoro'", "'Ife'", "$", "$", "$")
    firm = one.add("ORGANIZATION", "$", "'Lantern Fen'", "''")
    both = one.add("PERSON_AND_ORGANIZATION", person, firm)
    one.add("APPLIED_PERSON_AND_ORGANIZATION_ASSIGNMENT", both, one.add("PERSON_AND_ORGANIZATION_ROLE", "'creator'"), [one.one("PRODUCT")])


def unused(one):
    one.add("PLANE", "'nobody''s'", one.axes((500, 0, 0)))


def colour_said_again(one):
    values = one.args(one.one("COLOUR_RGB"))
    values[1:4] = [number(float(x) + 4e-4) for x in values[1:4]]


def head(one):
    start = one.head.index("FILE_NAME")
    end = one.head.index(";", start)
    one.head = one.head[:start] + "FILE_NAME('plate.stp','2020-01-01T00:00:00',('Ife Okoro'),('Lantern Fen'),'','','')" + one.head[end:]


def noted_between(one):
    one.line = "\n/* somebody's; #12 = 'note' */\n"


def line(how):
    def change(one):
        one.line = how
    return change


def shell_named(one):
    one.set(shell(one), 0, "'outer'")


def faces_named(one):
    for i, face in enumerate(one.all("ADVANCED_FACE")):
        one.set(face, 0, f"'face {i}'")


def layered(one):
    one.add("PRESENTATION_LAYER_ASSIGNMENT", "'all'", "''", [brep(one)])


def complex_mixed(one):
    """What is several kinds at once names them in another order."""
    for own in one.entities.values():
        if len(own) > 1 and not any(kind == "B_SPLINE_CURVE" for kind, _ in own):
            own.reverse()


STEP_SAME = {
    "as-it-is": lambda one: None,
    "backwards": in_order(lambda one, names: names[::-1]),
    "mixed": in_order(lambda one, names: one.rnd.sample(names, len(names))),
    "renumbered": renamed(1),
    "renumbered-widely": renamed(13),
    "loops-begin-elsewhere": loops_begin_elsewhere,
    "faces-mixed": faces_mixed,
    "bounds-mixed": bounds_mixed,
    "loops-run-backwards": loops_run_backwards,
    "points-apart": points_apart,
    "points-together": points_together,
    "long-directions": long_directions,
    "long-vectors": long_vectors,
    "lines-backwards": lines_backwards,
    "edges-backwards": edges_backwards,
    "planes-turned-over": planes_turned_over,
    "planes-from-elsewhere": planes_from_elsewhere,
    "lines-from-elsewhere": lines_from_elsewhere,
    "without-traces": without_traces,
    "outer-bounds": outer_bounds,
    "other-digits": integers,
    "trembling": trembling,
    "in-inches": in_inches,
    "in-metres": in_metres,
    "in-degrees": in_degrees,
    "people": people,
    "unused": unused,
    "colour-said-again": colour_said_again,
    "head": head,
    "notes": noted_between,
    "one-line": line(""),
    "crlf": line("\r\n"),
    "shell-named": shell_named,
    "faces-named": faces_named,
    "layered": layered,
    "complex-mixed": complex_mixed,
    "mapped-in-place": mapped((0, 0, 0)),
    "in-an-assembly-in-place": placed((0, 0, 0)),
}

told(write("step", lambda rnd: Exchange("a.step", rnd), STEP_FAULTS, STEP_SAME))
