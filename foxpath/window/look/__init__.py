"""The look: `theme` (colours, type), `draw` (lines, words and signs as we draw them), `focus` (the ring round what the keys go to)."""
