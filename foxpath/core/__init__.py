"""The computation: pure functions on arrays. No Qt, no files.

One package per stop of the trail (`reference`, `zones`, `growth`, `edges`, `lengths`, `eyes`, `passes`, `rehearsal`), `feathers`,
`features` and `brush` beside them, and what they share: `arrays`, `units`, `colour`, `curves`, `findings` (judgements), `fingerprint`
(names for contents), `reporting` (progress), `errors`, `folders`, `text`, `jit`.

Words
-----
reference
    The picture of the animal. Its pixels are the frame of every coordinate: origin at the top left,
    x right, y down; a point (x, y) lies at pixel column x, row y.
canvas
    What will be painted, in millimetres. A crop of the reference with the canvas's aspect says how
    many millimetres a pixel is (`mm_per_px`).
zone
    A part of the animal (or the background) that is painted alike.
comb
    A stroke of the painter along the hair, from root to tip.
mark
    One touch of the brush: a tapered stroke, thick at the root, fine at the tip.
pass
    One ordered layer of marks over some zones.
"""
