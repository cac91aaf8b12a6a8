"""What is judged, from large to small: features, masses, bare ground and strokes, edges, growth and smoothness, lights, forgotten things.

Everything is compared with what the plan shows *near* a place, by both hands, and never pixel by pixel: two hands never set the same mark. Each
reader returns candidates, whether they will be told or not.
"""
