# Draws DXF files from a seed with a library of its own, and says what they hold: box, length and centre of weight of all lines,
# and their length by colour and width, in drawing units.
import json, math, random, sys
import ezdxf
from ezdxf import bbox, disassemble
from ezdxf.addons.drawing import Frontend, RenderContext
from ezdxf.addons.drawing.backend import Backend


class Lengths(Backend):
    """How long the lines of each look are, as that library's own drawing of the file has them."""
    def __init__(self):
        super().__init__()
        self.found = {}

    def add(self, points, properties):
        key = f"{properties.color[:7].lower()} {properties.lineweight:.2f}"
        self.found[key] = self.found.get(key, 0) + sum(a.distance(b) for a, b in zip(points, points[1:]))

    def draw_path(self, path, properties):
        self.add(list(path.flattening(0.0005)), properties)

    def draw_line(self, start, end, properties):
        self.add([start, end], properties)

    def draw_point(self, pos, properties):
        pass

    def draw_filled_polygon(self, points, properties):
        pass

    def draw_text(self, *args, **more):
        pass

    def get_font_measurements(self, cap_height, font=None):
        return None

    def get_text_line_width(self, text, cap_height, font=None):
        return 0

    def set_background(self, color):
        pass

    def clear(self):
        pass

def shapes(layout, roll, depth, old):
    for _ in range(roll.randint(2, 5)):
        at = (roll.uniform(-40, 40), roll.uniform(-40, 40))
        kind = roll.choice(["line", "circle", "arc", "light", "heavy", "ellipse", "spline"][: 5 if old else 7])
        look = {"layer": roll.choice(["0", "Cut", "Marks"]), "color": roll.choice([256, 256, 0, 1, 3, 5])}
        if not old:
            look["lineweight"] = roll.choice([-1, -1, -2, 13, 50])
        if kind == "line":
            layout.add_line(at, (at[0] + roll.uniform(1, 20), at[1] - roll.uniform(1, 20)), look)
        elif kind == "circle":
            layout.add_circle(at, roll.uniform(1, 12), look)
        elif kind == "arc":
            layout.add_arc(at, roll.uniform(2, 12), roll.uniform(0, 360), roll.uniform(0, 360), dxfattribs=look)
        elif kind == "light" and not old:
            points = [(at[0] + i * 4, at[1] + roll.uniform(-5, 5), roll.choice([0, 0, 0.4, -1])) for i in range(5)]
            layout.add_lwpolyline(points, format="xyb", close=roll.random() < 0.5, dxfattribs=look)
        elif kind in ("heavy", "light"):
            points = [(at[0] + i * 4, at[1] + roll.uniform(-5, 5), roll.choice([0, 0.3])) for i in range(4)]
            layout.add_polyline2d(points, format="xyb", close=roll.random() < 0.5, dxfattribs=look)
        elif kind == "ellipse":
            turn = roll.uniform(0, 6.2)
            axis = (roll.uniform(4, 15) * math.cos(turn), roll.uniform(4, 15) * math.sin(turn))
            layout.add_ellipse(at, axis, roll.uniform(0.2, 0.95), roll.uniform(0, 3), roll.uniform(3.2, 6.2), dxfattribs=look)
        else:
            layout.add_open_spline([(at[0] + i * 6, at[1] + roll.uniform(-9, 9)) for i in range(6)], degree=roll.choice([2, 3]), dxfattribs=look)

found = []
for name, seed in zip(sys.argv[1::2], sys.argv[2::2]):
    roll = random.Random(int(seed))
    version = roll.choice(["R12", "R2000", "R2004", "R2007", "R2010", "R2013", "R2018"])
    old = version == "R12"
    document = ezdxf.new(version)
    document.layers.add("Cut", color=1)
    document.layers.add("Marks", color=4)
    if not old:
        document.layers.get("Cut").dxf.lineweight = 35
        document.layers.get("Marks").dxf.lineweight = 70
    document.layers.get("0").color = 6
    unit = 4 if old else roll.choice([1, 4, 5])
    if not old:
        document.header["$INSUNITS"] = unit
    inner, outer = document.blocks.new("INNER", base_point=(3, 2)), document.blocks.new("OUTER", base_point=(-1, 5))
    shapes(inner, roll, 1, old)
    shapes(outer, roll, 1, old)
    place = lambda: {"rotation": roll.uniform(0, 360), "xscale": roll.choice([1, -1, 0.5]), "layer": roll.choice(["Marks", "0"]),
                     "color": roll.choice([256, 0, 2]), **({} if old else {"lineweight": roll.choice([-1, -2, 25])})}
    for layout, block in ((outer, "INNER"), (document.modelspace(), "OUTER"), (document.modelspace(), "INNER")):
        attributes = place()
        attributes["yscale"] = abs(attributes["xscale"])
        # Inside a scaled block the library leaves the spacing of a grid unscaled, so grids stand at the top only.
        if layout is not outer and roll.random() < 0.4:
            attributes.update(column_count=2, row_count=3, column_spacing=30, row_spacing=25)
        layout.add_blockref(block, (roll.uniform(-50, 50), roll.uniform(-50, 50)), attributes)
    shapes(document.modelspace(), roll, 0, old)
    document.saveas(name)
    drawing = ezdxf.readfile(name)
    length = 0.0
    xs, ys = [], []
    weight = [0.0, 0.0]
    # Grids of inserts are opened first: the library takes an insert for its first cell otherwise.
    def opened(entities):
        for entity in entities:
            if entity.dxftype() == "INSERT":
                cells = entity.multi_insert() if entity.mcount > 1 else [entity]
                for cell in cells:
                    yield from opened(cell.virtual_entities())
            else:
                yield entity
    for part in disassemble.to_primitives(opened(drawing.modelspace()), max_flattening_distance=0.0005):
        points = list(part.vertices())
        for a, b in zip(points, points[1:]):
            length += a.distance(b)
            weight[0] += a.distance(b) * (a.x + b.x) / 2
            weight[1] += a.distance(b) * (a.y + b.y) / 2
        xs += [p.x for p in points]
        ys += [p.y for p in points]
    looks = Lengths()
    Frontend(RenderContext(drawing), looks).draw_layout(drawing.modelspace())
    found.append({"version": version, "looks": looks.found, "unit": unit, "length": length, "box": [min(xs), min(ys), max(xs), max(ys)],
                  "centre": [w / length for w in weight]})
json.dump(found, sys.stdout)
