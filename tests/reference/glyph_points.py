"""Every glyph of a face as fontTools has it: one JSON list of [area, sum over on-curve points of x and of y, count].

usage: glyph_points.py FACE. Font units, y up; areas by Green's theorem (fontTools' AreaPen), implied points in halves,
composites resolved.
"""
import json
import sys

from fontTools.pens.areaPen import AreaPen
from fontTools.pens.basePen import BasePen
from fontTools.ttLib import TTFont


class Points(BasePen):
    """The points where segments end, each once."""

    def __init__(self, glyphs):
        super().__init__(glyphs)
        self.x = self.y = 0.0
        self.n = 0

    def _take(self, p):
        if p != self._getCurrentPoint():
            self.x, self.y, self.n = self.x + p[0], self.y + p[1], self.n + 1

    def _moveTo(self, p):
        self.start = p

    def _lineTo(self, p):
        self._take(p)

    def _qCurveToOne(self, c, p):
        self._take(p)

    def _curveToOne(self, a, b, p):
        self._take(p)

    def _closePath(self):
        self._take(self.start)


font = TTFont(sys.argv[1], fontNumber=0, lazy=True)
glyphs = font.getGlyphSet()
out = []
for name in font.getGlyphOrder():
    area, points = AreaPen(glyphs), Points(glyphs)
    for pen in (area, points):
        glyphs[name].draw(pen)
    out.append([area.value, points.x, points.y, points.n])
json.dump(out, sys.stdout)
