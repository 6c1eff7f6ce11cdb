# Draws DXF files from a seed with a library of its own, and says what they hold: box, length
# and centre of weight of all lines, in drawing units.
import json, math, random, sys
import ezdxf
from ezdxf import bbox, disassemble

def shapes(layout, roll, depth, old):
    for _ in range(roll.randint(2, 5)):
        at = (roll.uniform(-40, 40), roll.uniform(-40, 40))
        kind = roll.choice(["line", "circle", "arc", "light", "heavy", "ellipse", "spline"][: 5 if old else 7])
        look = {"layer": roll.choice(["0", "Cut", "Marks"]), "color": roll.choice([256, 1, 3, 5])}
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
    version = roll.choice(["R12", "R2000", "R2007", "R2018"])
    old = version == "R12"
    document = ezdxf.new(version)
    document.layers.add("Cut", color=1)
    document.layers.add("Marks", color=4)
    unit = 4 if old else roll.choice([1, 4, 5])
    if not old:
        document.header["$INSUNITS"] = unit
    inner, outer = document.blocks.new("INNER", base_point=(3, 2)), document.blocks.new("OUTER", base_point=(-1, 5))
    shapes(inner, roll, 1, old)
    shapes(outer, roll, 1, old)
    place = lambda: {"rotation": roll.uniform(0, 360), "xscale": roll.choice([1, -1, 0.5]), "layer": "Marks"}
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
    found.append({"version": version, "unit": unit, "length": length, "box": [min(xs), min(ys), max(xs), max(ys)],
                  "centre": [w / length for w in weight]})
json.dump(found, sys.stdout)
