"""Reads DXF files by ezdxf and says what is in them: one JSON object a file, given as arguments."""

import json
import sys

import ezdxf
from ezdxf.path import make_path


def area(points):
    return sum(a.x * b.y - b.x * a.y for a, b in zip(points, points[1:] + points[:1])) / 2


for name in sys.argv[1:]:
    document = ezdxf.readfile(name)
    audit = document.audit()
    entities = list(document.modelspace())
    total, xs, ys, ends = 0.0, [], [], 0.0
    for entity in entities:
        path = make_path(entity)
        points = list(path.flattening(0.0005, 16))
        ends = max(ends, points[0].distance(points[-1]))
        total += area(points)
        xs += [p.x for p in points]
        ys += [p.y for p in points]
    print(
        json.dumps(
            {
                "errors": [str(error.message) for error in audit.errors],
                "units": document.header["$INSUNITS"],
                "kinds": sorted({entity.dxftype() for entity in entities}),
                "layers": sorted({entity.dxf.layer for entity in entities}),
                "closed": all(entity.closed for entity in entities),
                "entities": len(entities),
                "ends": ends,
                "area": abs(total),
                "box": [min(xs), min(ys), max(xs), max(ys)],
            }
        )
    )
