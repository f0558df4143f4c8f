# Prints, for each font named, its glyph names and the glyphs its rules can lead to from its characters, as fontTools reads them.
import json
import logging
import sys

from fontTools import subset
from fontTools.ttLib import TTFont

logging.disable(logging.WARNING)
for path in sys.argv[1:]:
    font = TTFont(path, fontNumber=0, lazy=True)
    names = font.getGlyphOrder()
    named = "CFF " in font or font["post"].formatType in (1.0, 2.0)
    if "CFF " in font and font["CFF "].cff[0].__dict__.get("ROS", None) is not None:
        named = False
    # Subsetting keeps what can be reached; only its closure over the characters and GSUB is asked for.
    subsetter = subset.Subsetter(options=subset.Options(layout_features=["*"], layout_scripts=["*"], notdef_glyph=False))
    subsetter.populate(unicodes=list(font.getBestCmap() or {}))
    subsetter._prune_pre_subset(font)
    subsetter._closure_glyphs(font)
    ids = font.getReverseGlyphMap()
    print(json.dumps({
        "path": path,
        "named": named,
        "names": names,
        "reached": sorted(ids[name] for name in subsetter.glyphs_gsubed if name in ids),
    }))
