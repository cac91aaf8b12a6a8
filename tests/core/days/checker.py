"""A schedule checked by other code: it reads what was written, and knows nothing of how it was made."""

from datetime import datetime


def faults(record):
    """Return what is wrong with a `days.json`, a sentence each."""
    at = datetime.fromisoformat
    found = []
    rule = record["sitting"]
    free = [(at(a), at(b)) for a, b in record["free"]]
    sittings = [(at(a), at(b)) for a, b in record["sittings"]]
    for a, b in sittings:
        if not any(x <= a and b <= y for x, y in free):
            found.append(f"the sitting of {a} is not in free time")
        if (b - a).total_seconds() / 60 > rule["longest_min"] + 1:
            found.append(f"the sitting of {a} is too long")
    for (_, b), (c, _) in zip(sittings, sittings[1:], strict=False):
        if c < b:
            found.append(f"sittings overlap at {c}")
    tasks = {task["id"]: task for task in record["tasks"]}
    pieces = []
    for key, task in tasks.items():
        mine = [(at(a), at(b)) for a, b in task["pieces"]]
        if not mine and not task.get("dropped"):
            found.append(f"{key} is left out")
        extra = sum(r["extra_min"] for r in record["relations"] if r["lost"] and r["to"] == key)
        spent = sum((b - a).total_seconds() / 60 for a, b in mine)
        if mine and spent != task["minutes"] + extra:
            found.append(f"{key} takes {spent} minutes, not {task['minutes']} + {extra}")
        for a, b in mine:
            inside = any(
                (a - x).total_seconds() / 60 >= rule["setup_min"]
                and (y - b).total_seconds() / 60 >= rule["cleanup_min"]
                for x, y in sittings
            )
            if not inside:
                found.append(f"{key} at {a} is outside every sitting")
            pieces.append((a, b, key))
    pieces.sort()
    for (_, b, one), (c, _, other) in zip(pieces, pieces[1:], strict=False):
        if c < b:
            found.append(f"{one} and {other} overlap")
    for r in record["relations"]:
        first, then = tasks[r["from"]]["pieces"], tasks[r["to"]]["pieces"]
        if not first or not then:
            continue
        if (at(then[0][0]) - at(first[-1][1])).total_seconds() / 3600 < r["min_h"] - 1e-6:
            found.append(f"{r['to']} comes too early after {r['from']} ({r['kind']})")
        if r["max_h"] is not None:
            long = (at(then[-1][1]) - at(first[-1][0])).total_seconds() / 3600
            if long > r["max_h"] + 1e-6 and not r["lost"]:
                found.append(f"{r['to']} comes too late after {r['from']}, and nobody says so")
            if r["lost"] and r["hard"]:
                found.append(f"a hard relation to {r['to']} is lost")
    for painting in {task["painting"] for task in tasks.values()}:
        varnish = [t for t in tasks.values() if t["painting"] == painting and t["kind"] == "varnish"]
        for task in varnish:
            kinds = {r["kind"] for r in record["relations"] if r["to"] == task["id"]}
            if not {"rest", "touch_dry"} <= kinds:
                found.append(f"{task['id']} waits for no rest")
            begin = at(task["pieces"][0][0])
            strokes = [
                at(b)
                for t in tasks.values()
                if t["painting"] == painting and t["kind"] in ("paint", "eye", "edge", "blend", "touch-up")
                for _, b in t["pieces"]
            ]
            if any(b > begin for b in strokes):
                found.append(f"a stroke comes after {task['id']}")
    return found
