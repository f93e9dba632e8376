# A made-up variable face of weight and width with named instances, and the same instances as plain faces by fontTools'
# instancer. usage: make_variable_face.py FOLDER; prints the names of the instances, a line each
import sys
from fontTools.fontBuilder import FontBuilder
from fontTools.pens.ttGlyphPen import TTGlyphPen
from fontTools.ttLib import TTFont
from fontTools.ttLib.tables.TupleVariation import TupleVariation
from fontTools.varLib import instancer

folder = sys.argv[1]
FAMILY = "Creek Flex"


def glyph(contours, curved=False):
    pen = TTGlyphPen(None)
    for contour in contours:
        if curved:
            pen.qCurveTo(*contour, None)
        else:
            pen.moveTo(contour[0])
            for p in contour[1:]:
                pen.lineTo(p)
        pen.closePath()
    return pen.glyph()


H = [[(80, 0), (80, 700), (180, 700), (180, 400), (420, 400), (420, 700), (520, 700), (520, 0), (420, 0), (420, 300),
      (180, 300), (180, 0)]]
I = [[(80, 0), (80, 700), (180, 700), (180, 0)]]
X = [[(50, 0), (250, 250), (50, 500), (150, 500), (300, 320), (450, 500), (550, 500), (350, 250), (550, 0), (450, 0),
      (300, 180), (150, 0)]]
O = [[(60, 0), (60, 700), (640, 700), (640, 0)], [(520, 110), (520, 590), (180, 590), (180, 110)]]
order = [".notdef", "space", "H", "I", "x", "O"]
glyphs = {".notdef": glyph(I), "space": TTGlyphPen(None).glyph(), "H": glyph(H), "I": glyph(I), "x": glyph(X),
          "O": glyph(O, True)}
advances = {".notdef": 260, "space": 250, "H": 600, "I": 260, "x": 600, "O": 700}

fb = FontBuilder(1000, isTTF=True)
fb.setupGlyphOrder(order)
fb.setupCharacterMap({32: "space", 72: "H", 73: "I", 120: "x", 79: "O"})
fb.setupGlyf(glyphs)
fb.setupHorizontalMetrics({g: (advances[g], 0) for g in order})
fb.setupHorizontalHeader(ascent=800, descent=-200)
fb.setupNameTable({"familyName": FAMILY, "styleName": "Regular"})
fb.setupOS2(sTypoAscender=800, usWinAscent=800, usWinDescent=200, sCapHeight=700, sxHeight=500, usWeightClass=400)
fb.setupPost()
instances = [("Light", 300, 100), ("Regular", 400, 100), ("Bold", 700, 100), ("Condensed", 400, 80),
             ("Condensed Bold", 733, 81)]
fb.setupFvar([("wght", 200, 400, 900, "Weight"), ("wdth", 75, 100, 130, "Width")],
             [{"location": {"wght": w, "wdth": d}, "stylename": name} for name, w, d in instances])
variations = {}
for name in order:
    n = len(glyphs[name].coordinates) if hasattr(glyphs[name], "coordinates") else 0
    points = list(glyphs[name].coordinates) if n else []
    # Heavier: outer points out by 37, inner ones in; wider: every x by a share; odd numbers make fractions.
    bold = [((17 if i % 3 else -23), (5 if i % 2 else 0)) for i in range(n)] + [(0, 0), (41, 0), (0, 0), (0, 0)]
    thin = [(-x, y) for x, y in bold]
    wide = [(round(p[0] * 0.31) + i % 3, 0) for i, p in enumerate(points)] + [(0, 0), (157, 0), (0, 0), (0, 0)]
    narrow = [(-round(p[0] * 0.23), 0) for p in points] + [(0, 0), (-131, 0), (0, 0), (0, 0)]
    variations[name] = [TupleVariation({"wght": (0.0, 1.0, 1.0)}, bold),
                        TupleVariation({"wght": (-1.0, -1.0, 0.0)}, thin),
                        TupleVariation({"wdth": (0.0, 1.0, 1.0)}, wide),
                        TupleVariation({"wdth": (-1.0, -1.0, 0.0)}, narrow)]
fb.setupGvar(variations)
fb.save(f"{folder}/CreekFlex.ttf")
for name, w, d in instances:
    plain = instancer.instantiateVariableFont(TTFont(f"{folder}/CreekFlex.ttf"), {"wght": w, "wdth": d})
    plain.save(f"{folder}/plain-{name.replace(' ', '-')}.bin")
    print(name)
