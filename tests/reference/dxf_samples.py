# DXF drawings made by ezdxf, and what they hold by its own reckoning:
#   dxf_samples.py FOLDER
# A line of JSON a file: its name, mm a unit (0: not said), extents (mm, y up), length of all lines (mm) as a polyline
# close to them, lines; R12 has no units.
import json
import math
import sys

import ezdxf
from ezdxf.disassemble import recursive_decompose, to_primitives
from ezdxf.math import BSpline, Vec3, rational_bspline_from_arc

folder = sys.argv[1]
MM = {0: 1, 1: 25.4, 2: 304.8, 4: 1, 5: 10, 6: 1000, 14: 100}


def new(version, units=4):
    doc = ezdxf.new(version, setup=False)
    doc.header["$INSUNITS"] = units
    doc.header["$MEASUREMENT"] = 1
    return doc, doc.modelspace()


def line(m):
    m.add_line((1, 2), (30, 40))


def circle(m):
    m.add_circle((10, 20), 7.5)


def arc(m):
    m.add_arc((10, 20), 15, 30, 290)


def arc_over_zero(m):
    m.add_arc((10, 20), 15, 290, 30)


def arc_from_behind(m):
    m.add_arc((10, 20), 15, 30, 120, dxfattribs={"extrusion": (0, 0, -1)})


def circle_from_behind(m):
    m.add_circle((10, 20), 5, dxfattribs={"extrusion": (0, 0, -1)})


def polyline_old(m):
    m.add_polyline2d([(0, 0), (20, 0), (20, 10), (5, 15)])


def polyline_old_closed(m):
    m.add_polyline2d([(0, 0), (20, 0), (20, 10), (5, 15)], close=True)


def polyline_old_bulges(m):
    m.add_polyline2d([(0, 0, 0.5), (20, 0, -0.3), (20, 10, 1), (5, 15, 0)], format="xyb", close=True)


def polyline_3d(m):
    m.add_polyline3d([(0, 0, 0), (20, 0, 0), (20, 10, 0)])


def lwpolyline(m):
    m.add_lwpolyline([(0, 0), (20, 0), (20, 10), (5, 15)])


def lwpolyline_bulges(m):
    m.add_lwpolyline([(0, 0, 0.41421356), (20, 0, 0), (20, 10, -1), (5, 15, 0.2)], format="xyb", close=True)


def lwpolyline_circle(m):
    m.add_lwpolyline([(0, 0, 1), (20, 0, 1)], format="xyb", close=True)


def lwpolyline_from_behind(m):
    m.add_lwpolyline([(0, 0, 0.5), (20, 0, 0), (20, 10, 0)], format="xyb", close=True,
                     dxfattribs={"extrusion": (0, 0, -1)})


def ellipse(m):
    m.add_ellipse((10, 10), (15, 5), 0.4)


def ellipse_part(m):
    m.add_ellipse((10, 10), (15, 5), 0.4, 0.5, 4)


def ellipse_over_zero(m):
    m.add_ellipse((10, 10), (15, 5), 0.4, 5, 1)


def ellipse_from_behind(m):
    m.add_ellipse((10, 10), (15, 5), 0.4, 0.5, 2, dxfattribs={"extrusion": (0, 0, -1)})


POINTS = [(0, 0), (10, 20), (25, -5), (40, 10), (50, 0), (60, 12), (70, 3)]


def spline_cubic(m):
    m.add_open_spline(POINTS, degree=3)


def spline_degree(degree):
    def made(m):
        m.add_open_spline(POINTS, degree=degree)
    return made


def spline_weights(m):
    m.add_rational_spline(POINTS, weights=[1, 2, 0.5, 1, 3, 1, 1], degree=3)


def spline_arc(m):
    s = rational_bspline_from_arc(center=(5, 5), radius=10, start_angle=20, end_angle=250)
    m.add_spline().apply_construction_tool(s)


def spline_closed(m):
    m.add_spline().set_closed(Vec3.list(POINTS), degree=3)


def spline_closed_weights(m):
    m.add_spline().set_closed_rational(Vec3.list(POINTS), weights=[1, 2, 0.5, 1, 3, 1, 1], degree=3)


def spline_knots(m):  # a corner where three knots meet, and uneven ones
    s = BSpline(POINTS, order=4, knots=[0, 0, 0, 0, 1, 1, 1, 5, 5, 5, 5])
    m.add_spline().apply_construction_tool(s)


def solid(m):
    m.add_solid([(0, 0), (10, 0), (0, 10), (12, 12)])


def trace(m):
    m.add_trace([(0, 0), (10, 0), (0, 10), (12, 12)])


def face(m):
    m.add_3dface([(0, 0), (10, 0), (12, 12), (0, 10)])


def block_in(m, **how):
    block = m.doc.blocks.new("PART", base_point=how.pop("base", (0, 0)))
    block.add_line((0, 0), (10, 0))
    block.add_arc((5, 0), 5, 0, 180)
    block.add_lwpolyline([(2, -2, 0.5), (8, -2, 0), (8, -6, 0)], format="xyb", close=True) \
        if m.doc.dxfversion > "AC1009" else block.add_polyline2d([(2, -2, 0.5), (8, -2, 0), (8, -6, 0)], format="xyb",
                                                                 close=True)
    m.add_blockref("PART", (30, 20), dxfattribs=how)


def block(m):
    block_in(m)


def block_scaled(m):
    block_in(m, xscale=2, yscale=2, rotation=30)


def block_mirrored(m):
    block_in(m, xscale=-1, yscale=1, rotation=30)


def block_stretched(m):
    block_in(m, xscale=3, yscale=0.5, rotation=-20)


def block_base(m):
    block_in(m, base=(5, 5), rotation=90)


def block_rows(m):
    block_in(m, column_count=3, row_count=2, column_spacing=15, row_spacing=-20, rotation=15)


def block_from_behind(m):
    block_in(m, rotation=30, extrusion=(0, 0, -1))


def block_in_block(m):
    inner = m.doc.blocks.new("INNER")
    inner.add_circle((0, 0), 2)
    inner.add_line((0, 0), (5, 1))
    outer = m.doc.blocks.new("OUTER")
    outer.add_blockref("INNER", (10, 0), dxfattribs={"rotation": 45, "xscale": 2, "yscale": 2})
    outer.add_blockref("INNER", (0, 10), dxfattribs={"xscale": -1})
    m.add_blockref("OUTER", (30, 20), dxfattribs={"rotation": 10})


def hatch_polyline(m):
    h = m.add_hatch()
    h.paths.add_polyline_path([(0, 0, 0.3), (20, 0, 0), (20, 10, 0), (0, 10, 0)], is_closed=True)


def hatch_edges(m):
    h = m.add_hatch()
    e = h.paths.add_edge_path()
    e.add_line((0, 0), (20, 0))
    e.add_arc((20, 5), 5, -90, 90)
    e.add_line((20, 10), (0, 10))
    e.add_line((0, 10), (0, 0))


def hatch_ellipse(m):
    h = m.add_hatch()
    e = h.paths.add_edge_path()
    e.add_ellipse((10, 10), (15, 5), 0.4, 0, 360)


def several(m):
    line(m)
    circle(m)
    arc(m)


EVERY = [line, circle, arc, arc_over_zero, arc_from_behind, circle_from_behind, polyline_old, polyline_old_closed,
         polyline_old_bulges, polyline_3d, solid, trace, face, block, block_scaled, block_mirrored, block_stretched,
         block_base, block_rows, block_from_behind, block_in_block, several]
LATER = [lwpolyline, lwpolyline_bulges, lwpolyline_circle, lwpolyline_from_behind, ellipse, ellipse_part,
         ellipse_over_zero, ellipse_from_behind, spline_cubic, spline_degree(2), spline_degree(4), spline_degree(5),
         spline_weights, spline_arc, spline_closed, spline_closed_weights, spline_knots, hatch_polyline, hatch_edges,
         hatch_ellipse]


def lines_of(entity):
    """Points along an entity, by its own definition: its arcs are not taken for Béziers, which are 3e-4 off."""
    kind = entity.dxftype()
    if kind == "LINE":
        return [[entity.dxf.start, entity.dxf.end]]
    if kind in ("CIRCLE", "ARC", "ELLIPSE"):
        return [list(entity.flattening(1e-5))]
    if kind == "SPLINE":
        return [list(entity.flattening(1e-5, segments=16))]
    if kind in ("LWPOLYLINE", "POLYLINE"):
        return [points for part in entity.virtual_entities() for points in lines_of(part)]
    found = []
    for primitive in to_primitives([entity], max_flattening_distance=1e-4):
        if primitive.path is None:
            found.append(list(primitive.vertices()))
            continue
        parts = list(primitive.path.sub_paths()) if primitive.path.has_sub_paths else [primitive.path]
        found += [list(part.flattening(1e-5, segments=16)) for part in parts if len(part)]
    return found


def reckoned(m):
    """Extents and length by ezdxf: everything taken apart, flattened."""
    low, high, length, count = [math.inf] * 2, [-math.inf] * 2, 0.0, 0
    for entity in recursive_decompose(m):
        for points in lines_of(entity):
            count += 1
            length += sum(a.distance(b) for a, b in zip(points, points[1:]))
            for v in points:
                low = [min(low[0], v[0]), min(low[1], v[1])]
                high = [max(high[0], v[0]), max(high[1], v[1])]
    return low, high, length, count


def save(name, doc, m, units):
    k = MM[units]
    low, high, length, count = reckoned(m)
    path = f"{folder}/{name}.dxf"
    doc.saveas(path)
    print(json.dumps({"name": name, "unit": 0 if units == 0 or doc.dxfversion == "AC1009" else k, "box": [v * k for v in (*low, *high)],
                      "length": length * k, "entities": count}))


number = 0
for make in EVERY:
    for version in ("R12", "R2000", "R2018"):
        doc, m = new(version)
        make(m)
        save(f"{make.__name__}-{version}", doc, m, 4)
for i, make in enumerate(LATER):
    for version in ("R2000", "R2018"):
        doc, m = new(version)
        make(m)
        save(f"{make.__name__}{i}-{version}", doc, m, 4)
for units in MM:
    doc, m = new("R2007", units)
    several(m)
    save(f"units-{units}", doc, m, units)
