"""Small faces with every fault that converted and hand-drawn ones have, made with fontTools.

usage: make_faces.py FOLDER. 1,000 units an em; letters a to d, 700 high, y up. Contours of letters run clockwise in the
font's sense where they are filled (as CFF has them the other way round, both occur). One face a fault:
  overshoot-E   curves begin with a handle that points past their corner by E units (1 unit = 10 microns at 10 mm em)
  wrong-way     a bar over each letter that runs against it
  abutting      advances are the letters' boxes, straight sides: neighbours share an edge
  cusps         tips where both sides leave in the same direction
  retrograde    handles that point back along the side that ends there
  doubled       points twice, sides of no length, handles on their nodes
  out-and-back  hairs: out from a side and straight back on it
  implied       quadratic curves without on-curve points, a composite, contours in both directions (TrueType)
"""
import os
import sys

from fontTools.fontBuilder import FontBuilder
from fontTools.pens.t2CharStringPen import T2CharStringPen
from fontTools.pens.ttGlyphPen import TTGlyphPen


def draw(pen, contours):
    """contours: lists of points; a tuple of three is a cubic's two handles and end, of two a corner."""
    for contour in contours:
        pen.moveTo(contour[0])
        for step in contour[1:]:
            if isinstance(step[0], tuple):
                pen.curveTo(*step)
            else:
                pen.lineTo(step)
        pen.closePath()


def bowl(x, y, r, sign=1):
    """A ring's edge of four cubics, sign -1 the other way round."""
    k = 0.5523 * r
    return [(x, y - r), ((x + sign * k, y - r), (x + sign * r, y - k), (x + sign * r, y)),
            ((x + sign * r, y + k), (x + sign * k, y + r), (x, y + r)),
            ((x - sign * k, y + r), (x - sign * r, y + k), (x - sign * r, y)),
            ((x - sign * r, y - k), (x - sign * k, y - r), (x, y - r))]


def box(x0, y0, x1, y1):
    return [(x0, y0), (x1, y0), (x1, y1), (x0, y1)]


def stem(e=0.0, back=0.0):
    """A leaning block whose right side is a curve; e: its handle points past the corner; back: along the side before."""
    return [(40, 0), (400, 0), ((400 - back, -e), (395, 60), (390, 200)), ((385, 400), (420, 500), (440, 700)),
            ((440 + e, 700 + back), (300, 690), (260, 700)), (40, 700)]


def overshoot(e):
    return {
        'a': [stem(e)],
        'b': [[(40, 0), (240, 0), ((240 + e, -e), (520, 60), (520, 260)), ((520, 480), (240 + e, 520 + e), (240, 520)),
               (240, 700), (40, 700)], bowl(260, 260, 110, -1)],
        'c': [[(60, 0), ((60 - e, 0), (200, 40), (480, 20)), ((480 + e, 20), (430, 300), (460, 690)),
               ((460, 690 + e), (200, 640), (60, 700))]],
        'd': [stem(e), bowl(220, 350, 90, -1)],
    }


def faults():
    for e in (0.01, 0.1, 1, 5):
        yield f'overshoot-{e}', overshoot(e), 480
    yield 'wrong-way', {
        'a': [stem(), box(300, 300, 560, 360)[::-1]],
        'b': [bowl(260, 350, 240), bowl(260, 350, 120, -1), box(-40, 320, 90, 380)[::-1]],
        'c': [box(40, 0, 400, 200), box(300, 100, 460, 700)[::-1]],
        'd': [box(40, 0, 200, 700)[::-1], box(150, 300, 480, 420)],
    }, 460
    yield 'abutting', {
        'a': [[(0, 0), (400, 0), (400, 700), ((300, 650), (100, 650), (0, 700))]],
        'b': [box(0, 0, 400, 700), box(120, 200, 280, 500)[::-1]],
        'c': [[(0, 0), (400, 0), (400, 300), ((250, 320), (150, 320), (100, 500)), (0, 700)]],
        'd': [box(0, 100, 400, 600)],
    }, 400
    yield 'cusps', {
        'a': [[(40, 0), (400, 0), ((400, 300), (300, 500), (200, 700)), ((200, 500), (150, 300), (40, 0))]],
        'b': [[(40, 350), ((200, 350), (400, 500), (520, 350)), ((400, 350), (200, 100), (40, 350))]],
        'c': [[(60, 0), ((260, 200), (260, 500), (60, 700)), ((160, 500), (160, 200), (60, 0))]],
        'd': [[(40, 0), (460, 0), ((300, 0), (250, 100), (250, 700)), ((250, 100), (200, 0), (40, 0))]],
    }, 480
    yield 'retrograde', {
        'a': [stem(0.1, 10)],
        'b': [[(40, 0), (400, 0), ((390, -0.1), (420, 60), (430, 100)), (430, 400), ((430, 390), (400, 500), (40, 400))]],
        'c': [[(60, 0), (400, 0), ((380, 0), (470, 100), (470, 690)), ((470, 680), (300, 690), (60, 690)), (60, 100)]],
        'd': [stem(0.02, 3), bowl(220, 350, 90, -1)],
    }, 480
    yield 'doubled', {
        'a': [[(40, 0), (40, 0), (400, 0), ((400, 0), (400, 700), (400, 700)), (400, 700), (40, 700), (40, 0)]],
        'b': [[(40, 0), (300, 0), ((300, 0), (520, 0), (520, 350)), ((520, 350), (520, 350), (520, 350)),
               ((520, 700), (300, 700), (300, 700)), (40, 700)]],
        'c': [bowl(260, 350, 220), bowl(260, 350, 220)],
        'd': [box(40, 0, 400, 700) + [(40, 0)], bowl(220, 350, 90, -1)],
    }, 480
    yield 'out-and-back', {
        'a': [[(40, 0), (400, 0), (400, 300), (480, 320), (400, 300), (400, 700), (40, 700)]],
        'b': [[(40, 0), (400, 0), ((430, 100), (480, 200), (500, 350)), ((480, 200), (430, 100), (400, 0)), (400, 700),
               (40, 700)]],
        'c': [[(60, 0), (400, 0), (401, 0), (400, 0), (400, 690), (399.9, 690), (400, 690), (60, 690)]],
        'd': [box(40, 0, 400, 700), [(100, 100), (300, 500), (100, 100)]],
    }, 480


def build(name, contours, advance, folder):
    builder = FontBuilder(1000, isTTF=False)
    letters = list(contours)
    order = ['.notdef', 'space'] + letters
    builder.setupGlyphOrder(order)
    builder.setupCharacterMap({ord(c): c for c in letters} | {32: 'space'})
    strings = {}
    for glyph in order:
        pen = T2CharStringPen(advance, None, roundTolerance=0)
        draw(pen, contours.get(glyph, []))
        strings[glyph] = pen.getCharString()
    builder.setupCFF(name, {'FullName': name}, strings, {})
    builder.setupHorizontalMetrics({g: (advance, 0) for g in order})
    finish(builder, name, os.path.join(folder, name + '.otf'))


def quadratic(folder):
    def blob(pen, x, y, r, sign):
        pen.qCurveTo(*[(x + sx * r * sign, y + sy * r) for sx, sy in ((1, -1), (1, 1), (-1, 1), (-1, -1))], None)
        pen.closePath()

    glyphs = {}
    for letter, parts in {'a': ((251, 347, 243, 1), (251, 347, 121, -1)), 'b': ((203, 351, 201, 1), (401, 353, 177, -1)),
                          'c': ((237, 333, 222, -1),)}.items():
        pen = TTGlyphPen(None)
        for part in parts:
            blob(pen, *part)
        glyphs[letter] = pen.glyph()
    pen = TTGlyphPen(glyphs)
    pen.addComponent('c', (1, 0, 0, 1, 0, 0))
    pen.addComponent('a', (0.5, 0, 0, 0.5, 120, 300))
    glyphs['d'] = pen.glyph()
    order = ['.notdef', 'space', 'a', 'b', 'c', 'd']
    for blank in order[:2]:
        glyphs[blank] = TTGlyphPen(None).glyph()
    builder = FontBuilder(1000, isTTF=True)
    builder.setupGlyphOrder(order)
    builder.setupCharacterMap({ord(c): c for c in 'abcd'} | {32: 'space'})
    builder.setupGlyf(glyphs)
    builder.setupHorizontalMetrics({g: (480, 0) for g in order})
    finish(builder, 'implied', os.path.join(folder, 'implied.ttf'))


def finish(builder, name, file):
    builder.setupHorizontalHeader(ascent=800, descent=-200)
    builder.setupNameTable({'familyName': name, 'styleName': 'Regular'})
    builder.setupOS2(sTypoAscender=800, usWinAscent=800, usWinDescent=200)
    builder.setupPost()
    builder.save(file)


for name, contours, advance in faults():
    build(name, contours, advance, sys.argv[1])
quadratic(sys.argv[1])
