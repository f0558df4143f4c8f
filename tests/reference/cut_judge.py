"""Judges joined drawings by shapely (GEOS): the nonzero-filled original against what was made of it.

Reads one JSON object a line from standard input: {"letters": [[contour, …], …], "joined": [contour, …], "offsetMm": d?}; a contour is a list of
segments, a segment a list of 4, 6 or 8 numbers. Writes one a line: areas in square millimetres, the area of the difference, whether the result is
valid, how much of it overlaps itself, and how many pieces both have.
"""

import json
import sys

import numpy as np
from shapely.geometry import LineString, MultiPolygon, Polygon
from shapely.ops import polygonize, polylabel, unary_union

# How far a chord may lie from its curve, millimetres (chord error h^2/8 max |f"|).
CHORD_MM = 0.0006


def flattened(contour):
    points = []
    for segment in contour:
        p = np.array(segment, float).reshape(-1, 2)
        if len(p) == 2:
            points.append(p[:1])
            continue
        bend = np.hypot(*np.diff(p, 2, axis=0).T).max() * (0.25 if len(p) == 3 else 0.75)
        chords = int(min(200, max(2, np.ceil(np.sqrt(bend / CHORD_MM)))))
        t = np.linspace(0, 1, chords + 1)[:-1, None]
        if len(p) == 3:
            points.append((1 - t) ** 2 * p[0] + 2 * t * (1 - t) * p[1] + t**2 * p[2])
        else:
            points.append((1 - t) ** 3 * p[0] + 3 * t * (1 - t) ** 2 * p[1] + 3 * t**2 * (1 - t) * p[2] + t**3 * p[3])
    return np.concatenate(points)


def winding(rings, x, y):
    """The winding number of closed polygons around a point."""
    total = 0
    for ring in rings:
        ax, ay = ring[:, 0], ring[:, 1]
        bx, by = np.roll(ax, -1), np.roll(ay, -1)
        up = (ay <= y) & (by > y)
        down = (by <= y) & (ay > y)
        side = (bx - ax) * (y - ay) - (x - ax) * (by - ay)
        total += np.count_nonzero(up & (side > 0)) - np.count_nonzero(down & (side < 0))
    return total


def inside(face):
    """A point in a face, well away from its edges: `representative_point` alone may miss faces whose corners lie level with one another."""
    point = face.representative_point()
    if not face.contains(point) or face.exterior.distance(point) < 1e-6:
        point = polylabel(face, 0.01)
    return point.x, point.y


def nonzero(contours):
    """The region a letter fills (SVG 2, "fill-rule: nonzero")."""
    rings = [ring for ring in map(flattened, contours) if len(ring) > 2]
    if not rings:
        return MultiPolygon()
    noded = unary_union([LineString(np.vstack([ring, ring[:1]])) for ring in rings])
    faces = [face for face in polygonize(noded) if face.area > 0]
    filled = [winding(rings, *inside(face)) != 0 for face in faces]
    if sum(face.area for face in faces) <= unary_union(faces).area * (1 + 1e-9):
        return unary_union([face for face, fills in zip(faces, filled) if fills])
    # A hole that touches its shell may not have been taken out of it: painted over one another, the largest first.
    whole = MultiPolygon()
    for face, fills in sorted(zip(faces, filled), key=lambda one: -one[0].area):
        whole = whole.union(face) if fills else whole.difference(face)
    return whole


def area_of(ring):
    x, y = ring[:, 0], ring[:, 1]
    return float(np.dot(x, np.roll(y, -1)) - np.dot(y, np.roll(x, -1))) / 2


def regions(contours):
    """Pieces of a joined drawing: outer contours run clockwise as seen on a screen, counters the other way."""
    rings = [ring for ring in map(flattened, contours) if len(ring) > 2]
    outers = sorted((r for r in rings if area_of(r) > 0), key=area_of)
    pieces = [(Polygon(r), []) for r in outers]
    for ring in rings:
        if area_of(ring) > 0:
            continue
        hole = Polygon(ring)
        point = hole.buffer(0).representative_point() if not hole.is_valid else hole.representative_point()
        for outer, holes in pieces:
            if outer.area >= hole.area and outer.buffer(0).contains(point):
                holes.append(ring)
                break
    return [Polygon(outer.exterior.coords, holes) for outer, holes in pieces]


# GEOS 3.11 now and then takes shapes that coincide to the last digit for quite different ones; a hair's breadth apart they are told truly.
HAIR = 1e-6


def difference(a, b):
    """The area only one of two shapes covers, too large by at most a hair along their edges."""
    return a.buffer(HAIR).difference(b).area + b.buffer(HAIR).difference(a).area


def parts(shape):
    return [p for p in getattr(shape, "geoms", [shape]) if p.area > 1e-4]


for line in sys.stdin:
    asked = json.loads(line)
    original = unary_union([nonzero(letter) for letter in asked["letters"]])
    if "offsetMm" in asked:
        original = original.buffer(asked["offsetMm"], resolution=64)
    made = regions(asked["joined"])
    # Places where outlines touch make a ring invalid though nothing overlaps: what counts is how much.
    sound = [piece if piece.is_valid else piece.buffer(0) for piece in made]
    whole = unary_union(sound)
    answer = {
        "area": original.area,
        "made": whole.area,
        "difference": difference(original, whole),
        "twice": sum(piece.area for piece in sound) - whole.area,
        "unsound": sum(abs(piece.area - s.area) for piece, s in zip(made, sound)),
        "pieces": len(parts(original)),
        "piecesMade": len(made),
    }
    print(json.dumps(answer), flush=True)
