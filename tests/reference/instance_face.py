# Plain faces by fontTools' instancer from a variable one, only the glyphs that a text needs, with their numbers kept.
# usage: instance_face.py FACE FOLDER TEXT TAG=VALUE[,TAG=VALUE]…: FOLDER/plain-0.bin, plain-1.bin…
import sys
from fontTools import subset
from fontTools.ttLib import TTFont
from fontTools.varLib import instancer

face, folder, text, *places = sys.argv[1:]
for i, place in enumerate(places):
    font = TTFont(face)
    options = subset.Options(retain_gids=True, notdef_outline=True, layout_features=["kern", "liga", "mark", "ccmp"])
    fewer = subset.Subsetter(options)
    fewer.populate(text=text + "HIExzv")  # and what heights are measured by
    fewer.subset(font)
    at = {a.axisTag: a.defaultValue for a in font["fvar"].axes}
    at.update({tag: float(value) for tag, value in (pair.split("=") for pair in place.split(","))})
    instancer.instantiateVariableFont(font, at).save(f"{folder}/plain-{i}.bin")
