"""Eyes and features: `homes` says in which zone each is painted, `reading` what is known of them, `steps` finds an eye and paints its
steps, `drawing` checks a drawing.
"""
