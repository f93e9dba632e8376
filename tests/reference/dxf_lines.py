"""DXF files read by ezdxf, which shares nothing with Frelm: what its audit finds, and each line with its layer, whether
it is closed, its extents and its area. Prints JSON, of each file: version, units, errors, lines [{layer, kind, closed, arcs, box, area}]."""
import json
import math
import sys

import ezdxf
from ezdxf.math import bulge_center, bulge_radius


def along(vertices, closed, flat):
    """Points along a polyline of (x, y, bulge) whose arcs are bulges, and how many arcs there are."""
    points, arcs = [], 0
    for (x, y, bulge), (x2, y2, _) in zip(vertices, vertices[1:] + (vertices[:1] if closed else [])):
        points.append((x, y))
        if bulge == 0:
            continue
        arcs += 1
        centre, radius = bulge_center((x, y), (x2, y2), bulge), bulge_radius((x, y), (x2, y2), bulge)
        begin, sweep = math.atan2(y - centre.y, x - centre.x), 4 * math.atan(bulge)
        steps = max(1, math.ceil(abs(sweep) / (2 * math.acos(max(0, 1 - flat / radius)))))
        points += [(centre.x + radius * math.cos(begin + sweep * i / steps),
                    centre.y + radius * math.sin(begin + sweep * i / steps)) for i in range(1, steps)]
    if not closed:
        points.append(vertices[-1][:2])
    return points, arcs



def extremes(a, b, c, d):
    """Values of a cubic at its ends and where it turns, on one axis."""
    out = [a, d]
    q2, q1, q0 = d - 3 * c + 3 * b - a, 2 * (c - 2 * b + a), b - a  # a third of the derivative
    roots = []
    if abs(q2) > 1e-12:
        root = q1 * q1 - 4 * q2 * q0
        if root >= 0:
            roots = [(-q1 + s * math.sqrt(root)) / (2 * q2) for s in (1, -1)]
    elif abs(q1) > 1e-12:
        roots = [-q0 / q1]
    for t in roots:
        if 0 < t < 1:
            u = 1 - t
            out.append(u * u * u * a + 3 * u * u * t * b + 3 * u * t * t * c + t * t * t * d)
    return out


def spline(entity):
    """Extents and area of a spline of degree 3 whose knots part it into cubics; None where it is another one."""
    points = [(p[0], p[1]) for p in entity.control_points]
    n, odd = divmod(len(points) - 1, 3)
    if odd or list(entity.knots) != [0] + [i for i in range(n + 1) for _ in range(3)] + [n]:
        return None
    xs, ys, area = [], [], 0
    for i in range(n):
        a, b, c, d = points[3 * i:3 * i + 4]
        xs += extremes(a[0], b[0], c[0], d[0])
        ys += extremes(a[1], b[1], c[1], d[1])
        cross = lambda p, q: p[0] * q[1] - p[1] * q[0]
        area += (6 * cross(a, b) + 3 * cross(a, c) + cross(a, d) + 3 * cross(b, c) + 3 * cross(b, d)
                 + 6 * cross(c, d)) / 20
    area += (points[-1][0] * points[0][1] - points[-1][1] * points[0][0]) / 2
    return [min(xs), min(ys), max(xs), max(ys)], area


def read(path):
    document = ezdxf.readfile(path)
    flat = 0.0005 / (25.4 if document.header.get("$INSUNITS") == 1 else 1)  # of the file's unit: 0.0005 mm
    lines, flattened = [], 0
    for entity in document.modelspace():
        kind, arcs = entity.dxftype(), 0
        known = spline(entity) if kind == "SPLINE" and flattened >= 3 else None  # ezdxf's own way takes long
        if known:
            lines.append({"layer": entity.dxf.layer, "kind": kind, "closed": entity.closed, "arcs": 0,
                          "box": known[0], "area": known[1]})
            continue
        if kind == "SPLINE":
            flattened += 1
            points = [(p.x, p.y) for p in entity.flattening(flat, segments=4)]
            closed = entity.closed
        elif kind == "LWPOLYLINE":
            closed = entity.closed
            points, arcs = along(entity.get_points("xyb"), closed, flat)
        else:
            closed = entity.is_closed
            points, arcs = along([(v.dxf.location.x, v.dxf.location.y, v.dxf.bulge) for v in entity.vertices], closed,
                                 flat)
        xs, ys = [p[0] for p in points], [p[1] for p in points]
        area = sum(a[0] * b[1] - b[0] * a[1] for a, b in zip(points, points[1:] + points[:1])) / 2
        lines.append({"layer": entity.dxf.layer, "kind": kind, "closed": closed, "arcs": arcs,
                      "box": [min(xs), min(ys), max(xs), max(ys)], "area": area})
    return {"version": document.dxfversion, "units": document.header.get("$INSUNITS"),
            "errors": [str(e.message) for e in document.audit().errors], "lines": lines}


print(json.dumps([read(path) for path in sys.argv[1:]]))
