"""A DXF file read by ezdxf, which shares nothing with Frelm: what its audit finds, and each line with its layer, whether
it is closed, its extents and its area. Prints JSON: version, units, errors, lines [{layer, kind, closed, box, area}]."""
import json
import sys

import ezdxf

FLAT = 0.0005  # mm

document = ezdxf.readfile(sys.argv[1])
errors = [str(e.message) for e in document.audit().errors]
lines = []
for entity in document.modelspace():
    kind = entity.dxftype()
    if kind == "SPLINE":
        points = [(p.x, p.y) for p in entity.flattening(FLAT, segments=4)]
        closed = entity.closed
    elif kind == "LWPOLYLINE":
        points, closed = [(p[0], p[1]) for p in entity.get_points()], entity.closed
    else:
        points, closed = [(p.x, p.y) for p in entity.points()], entity.is_closed
    xs, ys = [p[0] for p in points], [p[1] for p in points]
    area = sum(a[0] * b[1] - b[0] * a[1] for a, b in zip(points, points[1:] + points[:1])) / 2
    lines.append({"layer": entity.dxf.layer, "kind": kind, "closed": closed,
                  "box": [min(xs), min(ys), max(xs), max(ys)], "area": area})
print(json.dumps({"version": document.dxfversion, "units": document.header.get("$INSUNITS"), "errors": errors,
                  "lines": lines}))
