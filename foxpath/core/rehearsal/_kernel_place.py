"""The loop that places marks: seeds thinned by role, shaped by the coat, coloured within the pass's band.

Chance comes from a counter: the numbers of seed n do not depend on the other seeds, so that the same
seed gives the same marks on every machine (splitmix64; Steele, Lea, Flood 2014, doi:10.1145/2660193.2660195).
"""

import math

import numpy as np

from foxpath.core.arrays import F32, F64, I16, I32, I64, U8
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

_BAND = 8
"""Rows of cells whose seeds are looked at one after the other: what they read of the maps is still at hand."""
_BLOCK = 64
"""Seeds worked on side by side: none waits for what another reads, and the arithmetic of several is done at once."""
_KEYS = 65536
"""Steps of an order by key: so fine that marks within one lie as well in any order."""
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
def _cell(coordinate: float) -> np.uint64:
    """Return the whole part of what is never below 0: without sign, for an index that need not be looked at for being negative."""
    return np.uint64(np.int64(coordinate))


@kernel
def _seeds(mask: np.ndarray, box: np.ndarray, count: int, x0: float, y0: float, number: I64, places: F64) -> int:
    """Spread seeds evenly over a box and keep those in the mask, by number and place (x, y); returns how many."""
    top, left, height, width = box
    x, y = np.empty(_BLOCK), np.empty(_BLOCK)
    kept = 0
    for first in range(0, count, _BLOCK):
        few = min(_BLOCK, count - first)
        for k in range(few):
            u, v = x0 + (first + k) / _PLASTIC, y0 + (first + k) / (_PLASTIC * _PLASTIC)
            x[k], y[k] = left + (u - math.floor(u)) * width, top + (v - math.floor(v)) * height
        for k in range(few):
            number[kept], places[kept, 0], places[kept, 1] = first + k, x[k], y[k]
            # One that lies outside makes room for the next.
            kept += int(mask[_cell(y[k]), _cell(x[k])])
    return kept


@kernel
def _by_bands(places: F64, kept: int, top: int, height: int) -> I32:
    """Return the order of seeds band by band, and by number within a band: sorted by counting."""
    begins = np.zeros(height // _BAND + 2, np.int64)
    for k in range(kept):
        begins[_cell((places[k, 1] - top) / _BAND) + np.uint64(1)] += 1
    for band in range(1, begins.shape[0]):
        begins[band] += begins[band - 1]
    order = np.empty(kept, np.int32)
    for k in range(kept):
        own = _cell((places[k, 1] - top) / _BAND)
        order[begins[own]] = k
        begins[own] += 1
    return order


@kernel
def _look(at: F64, count: int, room: F32, study: I16, box: np.ndarray, shift: np.ndarray, seen: F64) -> None:
    """Read what lies under seeds into `seen`: their CIELAB, that around them, and mm to the border."""
    top, left, down, right = box[0], box[1], shift[0], shift[1]
    for k in range(count):
        i, j = _cell(at[1, k] - down), _cell(at[0, k] - right)
        for c in range(6):
            seen[c, k] = study[i, j, c] * (1 / STEPS)
        seen[6, k] = room[_cell(at[1, k] - top), _cell(at[0, k] - left)]


@kernel
def _chances(role: int, count: int, seen: F64, lower: float, high: float, chance: F64) -> None:
    """Say how likely each seed is laid: paint goes where its role belongs."""
    for k in range(count):
        light, around = seen[0, k], seen[3, k]
        likely = 1.0
        if role == DARKS:
            likely = _clip((high + 16 - around) / 12, 0.0, 1.0)
        elif role == RESTATED:
            # In a light coat the gaps are middle tones: darks would outline every hair there.
            gap = _clip((around - light - 1.5) / 4, 0.0, 1.0) * _clip((high + 18 - light) / 14, 0.0, 1.0)
            likely = max(gap, _clip((24 - light) / 6, 0.0, 1.0))
        elif role == LIGHTS:
            # Black hair is painted too: without it a dark coat would be lightened. Only holes are left as they are.
            likely = _clip((light - around + 8) / 5, 0.6, 1.0) * _clip((light + 3) / 5, 0.0, 1.0)
            # Paint far lighter than its place does not belong there, however pale a school draws its hair.
            likely *= _clip((light - lower + 24) / 10, 0.0, 1.0)
        elif role == HIGHLIGHTS:
            likely = _clip((light - 58) / 18, 0.0, 1.0) * _clip((light - around - 1) / 4, 0.0, 1.0)
        chance[k] = likely


@kernel
def _thin(seed: int, count: int, chance: F64, numbers: I64, at: F64, seen: F64) -> int:
    """Keep the seeds that are laid, moved together; returns how many."""
    few = 0
    for k in range(count):
        numbers[few], at[0, few], at[1, few] = numbers[k], at[0, k], at[1, k]
        for c in range(7):
            seen[c, few] = seen[c, k]
        few += int(chance[k] >= 1 or _uniform(seed, numbers[k], 0) < chance[k])
    return few


@kernel
def _draw(seed: int, numbers: I64, count: int, drawn: F64) -> None:
    """Draw what scatters marks: length, width; turn, curl; lightness, strength of colour; each of deviation 1."""
    for pair in range(3):
        for k in range(count):
            bits = _bits(seed, numbers[k], pair + 1)
            drawn[2 * pair, k], drawn[2 * pair + 1, k] = _normal(bits, 0), _normal(bits, 1)


@kernel
def _within(at: F64, k: int, grid: F64, rows: int, columns: int) -> tuple[np.uint64, np.uint64]:
    """Return the row and column of a map of the growth (see `rank_map` in `place`) that lies under a seed."""
    i = _cell(_clip(at[1, k] * grid[0] - grid[2], 0.0, rows - 1.0))
    return i, _cell(_clip(at[0, k] * grid[0] - grid[1], 0.0, columns - 1.0))


@kernel
def _held(
    at: F64, k: int, length: float, cell: float, light: float, study: I16, shift: np.ndarray, grid: F64, direction: F32
) -> float:  # fmt: skip
    """Return by how much a barb is shortened because the colour along it changes."""
    i, j = _within(at, k, grid, direction.shape[0], direction.shape[1])
    change = 0.0
    for side in (-HOLDS_OVER, HOLDS_OVER):
        step = side * length / cell
        ai = _cell(_clip(at[1, k] + direction[i, j, 1] * step - shift[0], 0.0, study.shape[0] - 1.0))
        aj = _cell(_clip(at[0, k] + direction[i, j, 0] * step - shift[1], 0.0, study.shape[1] - 1.0))
        change = max(change, abs(study[ai, aj, 0] / STEPS - light))
    return _clip(1 - (change - HOLDS) / 22, 0.45, 1.0)


@kernel
def _stepped_back(
    limit: U8, i: np.uint64, j: np.uint64, angle: float, length: float, role: int, uniform: float
) -> float:
    """Return how far behind its place a hair is rooted, mm, so that it ends where it may; below 0 where it is not laid."""
    ahead, aside = (float(limit[i, j, 1]) - 127.0) / 127.0, (float(limit[i, j, 2]) - 127.0) / 127.0
    toward = math.cos(angle) * ahead + math.sin(angle) * aside
    near, wide = FARTHEST * (limit[i, j, 0] / 255.0) ** 2, WIDEST * (limit[i, j, 3] / 255.0) ** 2
    # A mark has the colour of its middle, not of its root; but it is rooted in its own zone.
    back = BEHIND * length
    if toward < -GRAZING:
        back = min(back, near / -toward)
    if toward > GRAZING:
        # A hair that would reach too far over its border keeps its length and begins further back. Tips end unevenly
        # about the border: so hairs break it over its width.
        run = (near + RAGGED * (2.0 * uniform - 1.0) * wide) / toward
        back = max(back, length - max(run, 0.0))
    elif role != OTHER and uniform > near / max(THINS * wide, 0.01) + 0.08:
        # Hair that runs along a border cannot break it: it thins out, and the soft undercoat shows.
        back = -1.0
    return back


@kernel
def _bumps(at: F64, k: int, per_cell: float, dy: int, dx: int, noise: F32) -> float:
    """Read a field of bumps, so many of its cells to one of the map."""
    return float(
        noise[_cell(at[1, k] * per_cell + dy) % np.uint64(256), _cell(at[0, k] * per_cell + dx) % np.uint64(256)]
    )


@kernel
def _paint(
    role: int, kind: int, count: int, seed: int, numbers: I64, seen: F64, drawn: F64, tufts: F64, ground: F64,
    lower: float, upper: float, from_xyz: F32, curve: F32, colour: F64,
) -> None:  # fmt: skip
    """Mix the colour of each mark: red, green, blue (sRGB) and L*, within the pass's band."""
    masses = (kind & BLOCK_IN) > 0
    lively = (kind & HAIR) > 0 and not masses and role != WHISKERS
    for k in range(count):
        light, a, b = seen[0, k], seen[1, k], seen[2, k]
        if role == WHISKERS:
            # A whisker is drawn against what lies behind it: light on dark, and a few dark on light.
            a, b = a * 0.2, b * 0.2
            light = 92.0 if _uniform(seed, numbers[k], 5) < 0.75 else 16.0
        if role == GROUND:
            light, a, b = ground[0] + 1.6 * drawn[4, k], ground[1], ground[2]
        else:
            strength = 1 + 0.05 * drawn[5, k]
            if lively:
                # Hairs that lie over one another cover half of what sets each apart: it is laid on so much stronger.
                around = seen[3, k]
                apart = LIFE_LIGHT if light > around else LIFE_DARK
                light += apart * _clip(light - around, -LIFE_MOST, LIFE_MOST)
                a += LIFE_HUE * apart * _clip(a - seen[4, k], -LIFE_MOST, LIFE_MOST)
                b += LIFE_HUE * apart * _clip(b - seen[5, k], -LIFE_MOST, LIFE_MOST)
            light, a, b = light + 1.8 * drawn[4, k], a * strength, b * strength
        if not masses:
            light += 2.2 * tufts[k]
        kept = _clip(light, lower, upper)
        # Paint taken darker than its place keeps its hue but not all its chroma.
        fade = _clip(kept / max(light, 1.0), 0.35, 1.15)
        fy = (kept + 16) / 116
        x, y, z = _uncube(fy + a * fade / 500), _uncube(fy), _uncube(fy - b * fade / 200)
        for c in range(3):
            colour[c, k] = from_xyz[c, 0] * x + from_xyz[c, 1] * y + from_xyz[c, 2] * z
        colour[3, k] = kept
    for c in range(3):
        for k in range(count):
            colour[c, k] = _encode(colour[c, k], curve)


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
    top, edge = box[0], box[1]
    x0, y0 = _uniform(seed, 0, 29), _uniform(seed, 0, 30)
    hair, block_in, cover = (kind & HAIR) > 0, (kind & BLOCK_IN) > 0, (kind & COVER) > 0
    barbs, single = (kind & FEATHERS) > 0 and not block_in, hair and not block_in
    upper = min(high, ceiling)
    lower = min(low, upper)
    lean = _clip(length_mm / 30, 0.15, 1.0)
    tuft_lean = _clip(length_mm / 24, 0.2, 1.0)
    over = 0.6 + 0.1 * length_mm
    if single:
        # Hair may lie over the neighbour by part of its length; a block-in brush stays at home.
        over = 0.45 * length_mm
    elif role == BACKGROUND:
        over = 0.4 * length_mm
    all_numbers, places = np.empty(count, np.int64), np.empty((count, 2), np.float64)
    order = _by_bands(places, _seeds(mask, box, count, x0, y0, all_numbers, places), top, box[2])
    number, at, seen, chance = (
        np.empty(_BLOCK, np.int64),
        np.empty((2, _BLOCK)),
        np.empty((7, _BLOCK)),
        np.empty(_BLOCK),
    )
    drawn, tufts, colour = np.empty((6, _BLOCK)), np.empty(_BLOCK), np.empty((4, _BLOCK))
    laid = 0
    for first in range(0, order.shape[0], _BLOCK):
        few = min(_BLOCK, order.shape[0] - first)
        for k in range(few):
            n = order[first + k]
            number[k], at[0, k], at[1, k] = all_numbers[n], places[n, 0], places[n, 1]
        _look(at, few, room, study, box, shift, seen)
        if lent > 0 and single:
            # What the picture has lost in blur a donor lends: some hairs lie dark, some light.
            for k in range(few):
                seen[0, k] += lent * _normal(_bits(seed, number[k], 8), 0)
        _chances(role, few, seen, lower, high, chance)
        few = _thin(seed, few, chance, number, at, seen)
        _draw(seed, number, few, drawn)
        left = 0
        for k in range(few):
            n, x, y = number[k], at[0, k], at[1, k]
            length = length_mm * _clip(1 + 0.2 * drawn[0, k], 0.5, 1.6)
            half = 0.5 * width_mm * _clip(1 + 0.18 * drawn[1, k], 0.6, 1.5)
            if varied.shape[0] > 0:
                vi, vj = _within(at, k, rank_map, varied.shape[0], varied.shape[1])
                length *= varied[vi, vj, 0]
                half *= varied[vi, vj, 1]
            if barbs:
                length *= _held(at, k, length, cell, seen[0, k], study, shift, rank_map, direction)
            back = 0.0
            if role != GROUND:
                free = seen[6, k]
                if cover:
                    length = min(length, max(free * (1.0 if hair else 2.0) + over, 0.25 * length_mm))
                if block_in or not hair:
                    # A background may run under what is painted over it later; other masses stay at home.
                    beyond = 0.25 * width_mm if role == BACKGROUND else 0.3
                    half = min(half, max(free + beyond, 0.12 * width_mm))
            turn = spread * drawn[2, k]
            curl = 0.3 * drawn[3, k] * lean
            tuft = 0.0
            if hair:
                if clump > 0:
                    tuft = _bumps(at, k, cell / clump * 4, 7, 7, noise)
                if curled > 0:
                    # Neighbours curl to the same side, each lock for itself: C strokes, and S strokes where sides meet.
                    side = _clip(2.0 * _bumps(at, k, cell / CURL_MM * 4, 53, 91, noise), -1.0, 1.0)
                    curl += curled * side * _clip(1 + 0.25 * drawn[4, k], 0.5, 1.5)
                    turn -= 0.2 * curled * side
                # The tips of a tuft lean together: neighbours turn toward its middle along their length.
                curl += 0.55 * tuft * tuft_lean
                if _uniform(seed, n, 4) < stray:
                    turn *= 3.2
                if limit.shape[0] > 0:
                    i, j = _cell(y - top), _cell(x - edge)
                    back = _stepped_back(limit, i, j, turn + BENDS * curl, length, role, _uniform(seed, n, 7))
                    if back < 0:
                        continue
            # What is left of the block moves together, for its colours are mixed side by side.
            tufts[left], number[left] = tuft, n
            for c in range(6):
                seen[c, left] = seen[c, k]
            drawn[4, left], drawn[5, left] = drawn[4, k], drawn[5, k]
            row = laid + left
            out[row, 0], out[row, 1], out[row, 2], out[row, 3] = x, y, length, half
            out[row, 4], out[row, 5], out[row, 11] = turn, curl, back
            if rank.shape[0] > 0:
                ri, rj = _within(at, k, rank_map, rank.shape[0], rank.shape[1])
                out[row, 10] = -(rank[ri, rj] + rank_map[3] * _normal(_bits(seed, n, 6), 0))
            else:
                out[row, 10] = n
            left += 1
        _paint(
            role, kind, left, seed, number, seen, drawn, tufts, ground, lower, upper, from_xyz, curve, colour,
        )  # fmt: skip
        for k in range(left):
            for c in range(4):
                out[laid + k, 6 + c] = colour[c, k]
        laid += left
    return laid


@kernel
def by_key(key: F32) -> I32:
    """Return the order of marks by their key, in `_KEYS` even steps, and as they came within a step: sorted by counting."""
    low, high = key[0], key[0]
    for n in range(key.shape[0]):
        low, high = min(low, key[n]), max(high, key[n])
    share = np.float32(_KEYS - 1) / max(high - low, np.float32(1e-6))
    # What is no number has no place in the order; it may not have one beyond the counts.
    last = np.uint64(_KEYS - 1)
    begins = np.zeros(_KEYS + 1, np.int32)
    for n in range(key.shape[0]):
        begins[min(_cell((key[n] - low) * share), last) + np.uint64(1)] += 1
    for step in range(1, _KEYS):
        begins[step] += begins[step - 1]
    order = np.empty(key.shape[0], np.int32)
    for n in range(key.shape[0]):
        own = min(_cell((key[n] - low) * share), last)
        order[begins[own]] = n
        begins[own] += 1
    return order


@kernel
def beside(lines: F32, aside: F32, along: F32, out: F32) -> None:
    """Lay each line so many times beside itself.

    Parameters
    ----------
    lines : (N, points, 2) float32
    aside, along : (N, K) float32
        How far each lies to the right of it as it runs (y down), and further on, in its units.
    out : (N, K, points, 2) float32
    """
    count, points = lines.shape[0], lines.shape[1]
    for n in range(count):
        for i in range(points):
            a, b = max(i - 1, 0), min(i + 1, points - 1)
            u, v = lines[n, b, 0] - lines[n, a, 0], lines[n, b, 1] - lines[n, a, 1]
            size = np.float32(math.sqrt(u * u + v * v)) + np.float32(1e-9)
            u, v = u / size, v / size
            for k in range(aside.shape[1]):
                out[n, k, i, 0] = lines[n, i, 0] - aside[n, k] * v + along[n, k] * u
                out[n, k, i, 1] = lines[n, i, 1] + aside[n, k] * u + along[n, k] * v


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
    back: F32,
) -> None:
    """Split placed marks, in their laying order, into arrays of their own; roots, lengths and steps back in cells of the growth."""
    factor, dx, dy, per_cell = np.float32(scale), np.float32(column), np.float32(row), np.float32(1 / cell_mm)
    for k in range(order.shape[0]):
        n = order[k]
        start[k, 0], start[k, 1] = placed[n, 0] * factor - dx, placed[n, 1] * factor - dy
        length[k], half[k], turn[k], curl[k] = placed[n, 2], placed[n, 3], placed[n, 4], placed[n, 5]
        cells[k] = placed[n, 2] * per_cell
        colour[k, 0], colour[k, 1], colour[k, 2] = placed[n, 6], placed[n, 7], placed[n, 8]
        light[k], back[k] = placed[n, 9], placed[n, 11] * per_cell


@kernel
def step_back(field: F32, start: F32, back: F32, turn: F32, way: F32) -> None:
    """Move roots back along their hair by `back` cells, in place: one step by the midpoint rule, for hair bends little over it.

    `way` (N, 2) tells which way the growth runs where each was; a cell behind that points against it counts the other way round.
    """
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
            share = far * math.copysign(np.float32(0.5 + 0.5 * half), u * way[k, 0] + v * way[k, 1])
            x, y = start[k, 0] - (c * u - s * v) * share, start[k, 1] - (s * u + c * v) * share
        start[k, 0], start[k, 1] = x, y
