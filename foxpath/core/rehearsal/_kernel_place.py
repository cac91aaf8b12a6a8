"""The loop that places marks: seeds thinned by role, shaped by the coat, coloured within the pass's band.

Chance comes from a counter: the numbers of seed n do not depend on the other seeds, so that the same
seed gives the same marks on every machine (splitmix64; Steele, Lea, Flood 2014, doi:10.1145/2660193.2660195).
"""

import math

import numpy as np

from foxpath.core.arrays import F32, F64, I16, I32, U8
from foxpath.core.jit import kernel

OTHER, DARKS, RESTATED, LIGHTS, HIGHLIGHTS, GROUND, WHISKERS, BACKGROUND = range(8)
HAIR, BLOCK_IN, COVER, FEATHERS = 1, 2, 4, 8
"""Flags of a zone's kind and the pass."""
BENDS = 0.25
"""Share of its curl by which a hair as a whole is turned."""
GRAZING = 0.15
"""Hair that runs along a border more closely than this sine is not held back by it."""
THINS = 1.1
"""Over so many widths inside a border hair that runs along it thins out."""
STEPS = 256
"""A unit of CIELAB is packed in so many steps."""
BEHIND = 0.4
"""Share of its length by which a hair is rooted behind the place whose colour it has."""
HOLDS, HOLDS_OVER = 8.0, 0.35
"""A barb ends where its colour ends: it is shortened from this change of L* on, over this share of its length to each side."""
LIFE_LIGHT, LIFE_DARK = 0.5, 1.3
"""By how much more than in the picture a hair that is lighter, or darker, than what lies round it differs from it: what lies over a hair
hides a third of the difference, as measured on photographs, and more of a dark one, which is laid first."""
LIFE_MOST, LIFE_HUE = 12.0, 0.4
"""Differences beyond this, L*, are those of markings and forms, which keep theirs; of the colour, so much is laid on."""
FARTHEST, WIDEST = 80.0, 40.0
"""mm that 255 stands for in the packed distances and widths of a limit, which grow as the square."""
RAGGED = 0.8
"""Tips end evenly within so many widths to each side of a border: as they cover less there, it looks as wide as planned."""
CURL_MM = 9.0
"""About how wide a lock is whose hair curls to one side, mm."""
COLUMNS = 12
"""x, y (cells), length, half width (mm), turn, curl (radians), red, green, blue (sRGB), L*, laying order, step back (mm)."""

_BLOCK = 64
"""Seeds looked at side by side: what they read lies all over the maps, and none waits for the others' to come."""
_PLASTIC = 1.32471795724474602596


@kernel
def _bits(seed: int, index: int, which: int) -> np.uint64:
    """Return 64 random bits: number `which` of seed `index`."""
    z = np.uint64(seed) + np.uint64(0x9E3779B97F4A7C15) * (np.uint64(index) * np.uint64(32) + np.uint64(which + 1))
    z = (z ^ (z >> np.uint64(30))) * np.uint64(0xBF58476D1CE4E5B9)
    z = (z ^ (z >> np.uint64(27))) * np.uint64(0x94D049BB133111EB)
    return z ^ (z >> np.uint64(31))


@kernel
def _uniform(seed: int, index: int, which: int) -> float:
    """Return a number 0..1."""
    return float(_bits(seed, index, which) >> np.uint64(11)) * (1.0 / 9007199254740992.0)


@kernel
def _normal(bits: np.uint64, half: int) -> float:
    """Return a number of mean 0 and deviation 1 from one half of 64 bits: the sum of four even ones.

    Bell-shaped, in a thousand steps and never beyond 3.5, which is fine enough to scatter hairs.
    """
    z = bits >> np.uint64(32 * half)
    total = z & np.uint64(0xFF)
    total += (z >> np.uint64(8)) & np.uint64(0xFF)
    total += (z >> np.uint64(16)) & np.uint64(0xFF)
    total += (z >> np.uint64(24)) & np.uint64(0xFF)
    return (float(total) / 255.0 - 2.0) * 1.7252981471322728


@kernel
def _clip(value: float, low: float, high: float) -> float:
    return min(max(value, low), high)


@kernel
def _encode(linear: float, curve: F32) -> float:
    """Read the sRGB curve, which is stored over the square root of linear light so that darks keep their steps."""
    at = math.sqrt(_clip(linear, 0.0, 1.0)) * (curve.shape[0] - 1)
    low = min(int(at), curve.shape[0] - 2)
    return float(curve[low] + (curve[low + 1] - curve[low]) * (at - low))


@kernel
def _uncube(f: float) -> float:
    cube = f * f * f
    return cube if cube > 216 / 24389 else (116 * f - 16) / (24389 / 27)


@kernel
def _seeds(
    mask: np.ndarray, box: np.ndarray, first: int, last: int, x0: float, y0: float, number: np.ndarray, places: F64
) -> int:
    """Spread seeds `first` to `last` evenly over a box and keep those in the mask, by number and place (x, y); returns how many."""
    top, left, height, width = box
    kept = 0
    for n in range(first, last):
        # What is left over whole numbers; `%` would take most of the time of a seed that is not laid.
        u, v = x0 + n / _PLASTIC, y0 + n / (_PLASTIC * _PLASTIC)
        x, y = left + (u - math.floor(u)) * width, top + (v - math.floor(v)) * height
        number[kept], places[kept, 0], places[kept, 1] = n, x, y
        # One that lies outside makes room for the next.
        kept += int(mask[int(y), int(x)])
    return kept


@kernel
def _look(
    places: F64, count: int, room: F32, study: I16, box: np.ndarray, shift: np.ndarray, limit: U8, seen: F32, ends: U8
) -> None:  # fmt: skip
    """Read what lies under seeds into `seen` (its CIELAB, that around it, and mm to the border) and `ends` (see `limit` in `place`)."""
    limited, unit = limit.shape[0] > 0, np.float32(1 / STEPS)
    for k in range(count):
        i, j = int(places[k, 1]), int(places[k, 0])
        for c in range(6):
            seen[k, c] = study[i - shift[0], j - shift[1], c] * unit
        seen[k, 6] = room[i - box[0], j - box[1]]
        if limited:
            for c in range(4):
                ends[k, c] = limit[i - box[0], j - box[1], c]


@kernel
def place(
    mask: np.ndarray,
    room: F32,
    study: I16,
    noise: F32,
    from_xyz: F32,
    curve: F32,
    box: np.ndarray,
    shift: np.ndarray,
    count: int,
    seed: int,
    role: int,
    kind: int,
    numbers: F64,
    ground: F64,
    rank: F32,
    rank_map: F64,
    varied: F32,
    limit: U8,
    direction: F32,
    out: F32,
) -> int:
    """Place up to `count` seeds in a zone; returns how many marks were laid into `out`.

    Parameters
    ----------
    mask : (rows, columns) bool
    room : (h, w) float32 on the zone's box, mm to the border
    study : (rows, columns, 6) int16, see `marks.packed_study`; read at (row - shift[0], column - shift[1])
    noise : (256, 256) float32, periodic
    from_xyz : (3, 3) float32, normalised XYZ to linear sRGB
    curve : (N,) float32, sRGB over the square root of linear light
    box : top, left, height, width of the zone, cells
    kind : flags
    numbers : cell_mm, length, width, spread (radians), clump_mm, stray share, low, high, ceiling, curl (radians),
        light and dark between hairs that a donor lends (deviation, L*)
    ground : (3,) CIELAB of the toned ground
    rank : (h, w) float32, laying rank on the growth grid; (0, 0) keeps the scattered order
    rank_map : scale, column, row: cells of this grid to cells of `rank` and `varied`; jitter of the order
    varied : (h, w, 2) float32, multiples of length and width on the growth grid; (0, 0, 2) where they do not vary
    direction : (h, w, 2) float32, the growth on its grid
    limit : (h, w, 4) uint8 on the zone's box, (0, 0, 4) for no limit: see `marks.packed_limit`
    """
    cell, length_mm, width_mm, spread, clump, stray, low, high, ceiling, curled, lent = numbers
    x0, y0 = _uniform(seed, 0, 29), _uniform(seed, 0, 30)
    hair, block_in, cover = (kind & HAIR) > 0, (kind & BLOCK_IN) > 0, (kind & COVER) > 0
    barbs = (kind & FEATHERS) > 0 and not block_in
    upper = min(high, ceiling)
    lower = min(low, upper)
    lean = _clip(length_mm / 30, 0.15, 1.0)
    tuft_lean = _clip(length_mm / 24, 0.2, 1.0)
    over = 0.6 + 0.1 * length_mm
    if hair and not block_in:
        # Hair may lie over the neighbour by part of its length; a block-in brush stays at home.
        over = 0.45 * length_mm
    elif role == BACKGROUND:
        over = 0.4 * length_mm
    number, places = np.empty(_BLOCK, np.int64), np.empty((_BLOCK, 2), np.float64)
    seen, ends = np.empty((_BLOCK, 7), np.float32), np.empty((_BLOCK, 4), np.uint8)
    laid, k, few, first = 0, 0, 0, 0
    while k < few or first < count:
        if k == few:
            last = min(first + _BLOCK, count)
            few = _seeds(mask, box, first, last, x0, y0, number, places)
            _look(places, few, room, study, box, shift, limit, seen, ends)
            k, first = 0, last
            continue
        m, k = k, k + 1
        n, x, y = number[m], places[m, 0], places[m, 1]
        light, a, b, around = seen[m, 0], seen[m, 1], seen[m, 2], seen[m, 3]
        if lent > 0 and hair and not block_in:
            # What the picture has lost in blur a donor lends: some hairs lie dark, some light.
            light += lent * _normal(_bits(seed, n, 8), 0)
        chance = 1.0
        if role == DARKS:
            chance = _clip((high + 16 - around) / 12, 0.0, 1.0)
        elif role == RESTATED:
            # In a light coat the gaps are middle tones: darks would outline every hair there.
            gap = _clip((around - light - 1.5) / 4, 0.0, 1.0) * _clip((high + 18 - light) / 14, 0.0, 1.0)
            chance = max(gap, _clip((24 - light) / 6, 0.0, 1.0))
        elif role == LIGHTS:
            # Black hair is painted too: without it a dark coat would be lightened. Only holes are left as they are.
            chance = _clip((light - around + 8) / 5, 0.6, 1.0) * _clip((light + 3) / 5, 0.0, 1.0)
            # Paint far lighter than its place does not belong there, however pale a school draws its hair.
            chance *= _clip((light - lower + 24) / 10, 0.0, 1.0)
        elif role == HIGHLIGHTS:
            chance = _clip((light - 58) / 18, 0.0, 1.0) * _clip((light - around - 1) / 4, 0.0, 1.0)
        if chance < 1 and _uniform(seed, n, 0) >= chance:
            continue

        size, course, tint = _bits(seed, n, 1), _bits(seed, n, 2), _bits(seed, n, 3)
        length = length_mm * _clip(1 + 0.2 * _normal(size, 0), 0.5, 1.6)
        half = 0.5 * width_mm * _clip(1 + 0.18 * _normal(size, 1), 0.6, 1.5)
        if varied.shape[0] > 0:
            vi = int(_clip(y * rank_map[0] - rank_map[2], 0.0, varied.shape[0] - 1.0))
            vj = int(_clip(x * rank_map[0] - rank_map[1], 0.0, varied.shape[1] - 1.0))
            length *= varied[vi, vj, 0]
            half *= varied[vi, vj, 1]
        if barbs:
            vi = int(_clip(y * rank_map[0] - rank_map[2], 0.0, direction.shape[0] - 1.0))
            vj = int(_clip(x * rank_map[0] - rank_map[1], 0.0, direction.shape[1] - 1.0))
            change = 0.0
            for side in (-HOLDS_OVER, HOLDS_OVER):
                step = side * length / cell
                ai = int(_clip(y + direction[vi, vj, 1] * step - shift[0], 0.0, study.shape[0] - 1.0))
                aj = int(_clip(x + direction[vi, vj, 0] * step - shift[1], 0.0, study.shape[1] - 1.0))
                change = max(change, abs(study[ai, aj, 0] / STEPS - light))
            length *= _clip(1 - (change - HOLDS) / 22, 0.45, 1.0)
        back = 0.0
        if role != GROUND:
            free = seen[m, 6]
            if cover:
                length = min(length, max(free * (1.0 if hair else 2.0) + over, 0.25 * length_mm))
            if block_in or not hair:
                # A background may run under what is painted over it later; other masses stay at home.
                beyond = 0.25 * width_mm if role == BACKGROUND else 0.3
                half = min(half, max(free + beyond, 0.12 * width_mm))
        turn = spread * _normal(course, 0)
        curl = 0.3 * _normal(course, 1) * lean
        tuft = 0.0
        if hair:
            if clump > 0:
                tuft = noise[int(y * cell / clump * 4 + 7) % 256, int(x * cell / clump * 4 + 7) % 256]
            if curled > 0:
                # Neighbours curl to the same side, each lock for itself: C strokes, and S strokes where sides meet.
                lock = noise[int(y * cell / CURL_MM * 4 + 53) % 256, int(x * cell / CURL_MM * 4 + 91) % 256]
                side = _clip(2.0 * lock, -1.0, 1.0)
                curl += curled * side * _clip(1 + 0.25 * _normal(tint, 0), 0.5, 1.5)
                turn -= 0.2 * curled * side
            # The tips of a tuft lean together: neighbours turn toward its middle along their length.
            curl += 0.55 * tuft * tuft_lean
            if _uniform(seed, n, 4) < stray:
                turn *= 3.2
            if limit.shape[0] > 0:
                # A hair that would reach too far over its border keeps its length and begins further back.
                angle = turn + BENDS * curl
                ahead, aside = (float(ends[m, 1]) - 127.0) / 127.0, (float(ends[m, 2]) - 127.0) / 127.0
                toward = math.cos(angle) * ahead + math.sin(angle) * aside
                near, wide = FARTHEST * (ends[m, 0] / 255.0) ** 2, WIDEST * (ends[m, 3] / 255.0) ** 2
                # A mark has the colour of its middle, not of its root; but it is rooted in its own zone.
                back = BEHIND * length
                if toward < -GRAZING:
                    back = min(back, near / -toward)
                if toward > GRAZING:
                    # Tips end unevenly about the border: so hairs break it over its width.
                    ragged = RAGGED * (2.0 * _uniform(seed, n, 7) - 1.0) * wide
                    run = (near + ragged) / toward
                    back = max(back, length - max(run, 0.0))
                elif role != OTHER:
                    # Hair that runs along a border cannot break it: it thins out, and the soft undercoat shows.
                    fade = near / max(THINS * wide, 0.01)
                    if _uniform(seed, n, 7) > fade + 0.08:
                        continue

        if role == WHISKERS:
            # A whisker is drawn against what lies behind it: light on dark, and a few dark on light.
            a, b = a * 0.2, b * 0.2
            light = 92.0 if _uniform(seed, n, 5) < 0.75 else 16.0
        if role == GROUND:
            light, a, b = ground[0] + 1.6 * _normal(tint, 0), ground[1], ground[2]
        else:
            strength = 1 + 0.05 * _normal(tint, 1)
            if hair and not block_in and role != WHISKERS:
                # Hairs that lie over one another cover half of what sets each apart: it is laid on so much stronger.
                apart = LIFE_LIGHT if light > around else LIFE_DARK
                light += apart * _clip(light - around, -LIFE_MOST, LIFE_MOST)
                a += LIFE_HUE * apart * _clip(a - seen[m, 4], -LIFE_MOST, LIFE_MOST)
                b += LIFE_HUE * apart * _clip(b - seen[m, 5], -LIFE_MOST, LIFE_MOST)
            light, a, b = light + 1.8 * _normal(tint, 0), a * strength, b * strength
        if not block_in:
            light += 2.2 * tuft
        kept = _clip(light, lower, upper)
        # Paint taken darker than its place keeps its hue but not all its chroma.
        fade = _clip(kept / max(light, 1.0), 0.35, 1.15)
        fy = (kept + 16) / 116
        px, py, pz = _uncube(fy + a * fade / 500), _uncube(fy), _uncube(fy - b * fade / 200)
        out[laid, 0], out[laid, 1], out[laid, 2], out[laid, 3] = x, y, length, half
        out[laid, 4], out[laid, 5] = turn, curl
        for c in range(3):
            linear = from_xyz[c, 0] * px + from_xyz[c, 1] * py + from_xyz[c, 2] * pz
            out[laid, 6 + c] = _encode(linear, curve)
        out[laid, 9] = kept
        if rank.shape[0] > 0:
            ri = int(_clip(y * rank_map[0] - rank_map[2], 0.0, rank.shape[0] - 1.0))
            rj = int(_clip(x * rank_map[0] - rank_map[1], 0.0, rank.shape[1] - 1.0))
            out[laid, 10] = -(rank[ri, rj] + rank_map[3] * _normal(_bits(seed, n, 6), 0))
        else:
            out[laid, 10] = n
        out[laid, 11] = back
        laid += 1
    return laid


@kernel
def take(
    placed: F32,
    order: I32,
    scale: float,
    column: float,
    row: float,
    cell_mm: float,
    start: F32,
    cells: F32,
    turn: F32,
    curl: F32,
    length: F32,
    half: F32,
    colour: F32,
    light: F32,
) -> None:
    """Split placed marks, in their laying order, into arrays of their own; roots and lengths in cells of the growth."""
    factor, dx, dy, per_cell = np.float32(scale), np.float32(column), np.float32(row), np.float32(1 / cell_mm)
    for k in range(order.shape[0]):
        n = order[k]
        start[k, 0], start[k, 1] = placed[n, 0] * factor - dx, placed[n, 1] * factor - dy
        length[k], half[k], turn[k], curl[k] = placed[n, 2], placed[n, 3], placed[n, 4], placed[n, 5]
        cells[k] = placed[n, 2] * per_cell
        colour[k, 0], colour[k, 1], colour[k, 2] = placed[n, 6], placed[n, 7], placed[n, 8]
        light[k] = placed[n, 9]


@kernel
def step_back(field: F32, start: F32, back: F32, turn: F32) -> None:
    """Move roots back along their hair by `back` cells, in place: one step by the midpoint rule, for hair bends little over it."""
    rows, columns = field.shape[0], field.shape[1]
    for k in range(start.shape[0]):
        far = back[k]
        if far <= 0:
            continue
        c, s = math.cos(turn[k]), math.sin(turn[k])
        x, y = start[k, 0], start[k, 1]
        for half in range(2):
            i = int(min(max(y, np.float32(0)), np.float32(rows - 1)))
            j = int(min(max(x, np.float32(0)), np.float32(columns - 1)))
            u, v = field[i, j, 0], field[i, j, 1]
            share = far * np.float32(0.5 + 0.5 * half)
            x, y = start[k, 0] - (c * u - s * v) * share, start[k, 1] - (s * u + c * v) * share
        start[k, 0], start[k, 1] = x, y
