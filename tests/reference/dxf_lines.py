"""A DXF file read by ezdxf, which shares nothing with Frelm: what its audit finds, and each line with its layer, whether
it is closed, its extents and its area. Prints JSON: version, units, errors, lines [{layer, kind, closed, arcs, box, area}]."""
import json
import math
import sys

import ezdxf
from ezdxf.math import bulge_center, bulge_radius


def along(vertices, closed):
    """Points along a polyline of (x, y, bulge) whose arcs are bulges, and how many arcs there are."""
    points, arcs = [], 0
    for (x, y, bulge), (x2, y2, _) in zip(vertices, vertices[1:] + (vertices[:1] if closed else [])):
        points.append((x, y))
        if bulge == 0:
            continue
        arcs += 1
        centre, radius = bulge_center((x, y), (x2, y2), bulge), bulge_radius((x, y), (x2, y2), bulge)
        begin, sweep = math.atan2(y - centre.y, x - centre.x), 4 * math.atan(bulge)
        steps = max(1, math.ceil(abs(sweep) / (2 * math.acos(max(0, 1 - FLAT / radius)))))
        points += [(centre.x + radius * math.cos(begin + sweep * i / steps),
                    centre.y + radius * math.sin(begin + sweep * i / steps)) for i in range(1, steps)]
    if not closed:
        points.append(vertices[-1][:2])
    return points, arcs


document = ezdxf.readfile(sys.argv[1])
FLAT = 0.0005 / (25.4 if document.header.get("$INSUNITS") == 1 else 1)  # of the file's unit: 0.0005 mm
errors = [str(e.message) for e in document.audit().errors]
lines = []
for entity in document.modelspace():
    kind, arcs = entity.dxftype(), 0
    if kind == "SPLINE":
        points = [(p.x, p.y) for p in entity.flattening(FLAT, segments=4)]
        closed = entity.closed
    elif kind == "LWPOLYLINE":
        closed = entity.closed
        points, arcs = along(entity.get_points("xyb"), closed)
    else:
        closed = entity.is_closed
        points, arcs = along([(v.dxf.location.x, v.dxf.location.y, v.dxf.bulge) for v in entity.vertices], closed)
    xs, ys = [p[0] for p in points], [p[1] for p in points]
    area = sum(a[0] * b[1] - b[0] * a[1] for a, b in zip(points, points[1:] + points[:1])) / 2
    lines.append({"layer": entity.dxf.layer, "kind": kind, "closed": closed, "arcs": arcs,
                  "box": [min(xs), min(ys), max(xs), max(ys)], "area": area})
print(json.dumps({"version": document.dxfversion, "units": document.header.get("$INSUNITS"), "errors": errors,
                  "lines": lines}))
