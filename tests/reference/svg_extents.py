"""Extents and contours of an SVG file's paths, read with fontTools: a reader that shares nothing with Frelm.
Prints JSON: width_mm, height_mm, view_box, box [x0, y0, x1, y1], contours, closed, groups, texts, transforms."""
import json
import sys
import xml.etree.ElementTree as ET

from fontTools.pens.boundsPen import BoundsPen
from fontTools.pens.recordingPen import RecordingPen
from fontTools.svgLib.path import parse_path

NS = "{http://www.w3.org/2000/svg}"
root = ET.parse(sys.argv[1]).getroot()
box, contours, closed = None, 0, 0
for path in root.iter(NS + "path"):
    bounds, record = BoundsPen(None), RecordingPen()
    parse_path(path.get("d"), bounds)
    parse_path(path.get("d"), record)
    contours += sum(op == "moveTo" for op, _ in record.value)
    closed += sum(op == "closePath" for op, _ in record.value)
    b = bounds.bounds
    box = b if box is None else (min(box[0], b[0]), min(box[1], b[1]), max(box[2], b[2]), max(box[3], b[3]))
print(json.dumps({
    "width": root.get("width"), "height": root.get("height"), "view_box": root.get("viewBox"), "box": box,
    "contours": contours, "closed": closed, "groups": [g.get("fill") for g in root.iter(NS + "g")],
    "paths": len(list(root.iter(NS + "path"))), "texts": len(list(root.iter(NS + "text"))),
    "transforms": sum(e.get("transform") is not None for e in root.iter()),
}))
