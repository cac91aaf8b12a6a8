"""The bench's parts: `controls` (buttons, measures, choices, fields), `rows` (cards, findings, lists), `bench` (the plate)."""
