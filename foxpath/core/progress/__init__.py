"""Progress: a photograph of the canvas, squared up and balanced, against the plan of the passes done.

Glossary
--------
planned
    What is compared with: the rehearsal of the passes done, by two hands (two seeds). Where the two differ, marks alone may differ.
work picture, work px
    The canvas seen square on, at the planned picture's own pixels; (0, 0) is the canvas's top left corner.
frame
    How the photograph lies on the canvas: a homography and one lens term.
stiff, fine
    The photograph laid on the plan by a field of shifts: smooth over a hand's breadth, so that a misplaced eye stays misplaced; and
    close, so that colours are compared with their own.
candidate
    A difference that was measured, whether it is told or not; told from its threshold on.
touch-up
    A candidate that is told: where, how much, from how far it is seen, what mends it, with what, and when.

Methods and their measured limits stand with the functions. What no photograph tells: whether everything is too dark, too warm or too grey
without a known spot in it; wet shine from a light stroke; relief; what lies under glare; hairs finer than a pixel and a half.
"""
