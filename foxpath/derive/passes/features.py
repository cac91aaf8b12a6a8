"""What a pass adds for eyes and features."""

from collections.abc import Hashable

from foxpath.core.eyes import Eye
from foxpath.core.features import Feature, FeatureStep
from foxpath.core.fingerprint import fingerprint, told
from foxpath.core.passes import PassPlan
from foxpath.core.rehearsal.eyes import eye_marks
from foxpath.core.rehearsal.features import feature_marks
from foxpath.core.rehearsal.marks import Marks
from foxpath.derive.eyes.homes import EYE_ROLES, eyes_in, features_in
from foxpath.derive.eyes.reading import SEED, _feature_read, eye_key, eye_plan, feature_steps
from foxpath.derive.passes.plan import first_of_act
from foxpath.derive.pictures import picture_key
from foxpath.derive.results import Results
from foxpath.document.model import Project


def further_marks(results: Results, project: Project, plan: PassPlan, index: int) -> list[tuple[Hashable, Marks]]:
    """Return what a pass adds in a zone for its eyes and features, each group with its key."""
    role, band = plan.role.act, (plan.l_low, min(plan.l_high, plan.ceiling))
    made: list[tuple[Hashable, Marks]] = []
    if not first_of_act(results, project, plan, index):
        # Where several passes act alike, eyes and features are painted in the first.
        return made
    for eye in eyes_in(results, project, index):
        key = ("eye marks", told((eye_key(results, project, eye), role, band)))

        def paint(eye: Eye = eye) -> tuple[Marks, ...]:
            # Another hand lays the coat afresh; eyes and features come as they were planned.
            steps = EYE_ROLES if role == "eyes" else (role,)
            return tuple(one for each in steps for one in eye_marks(eye_plan(results, project, eye), each, band))

        made += [((key, k), one) for k, one in enumerate(results.memo.get(key, paint))]
    for feature in features_in(results, project, index):
        steps = feature_steps(results, project, feature)
        claws = role == "highlights" and any(step.part == "claw" for step in steps)
        if not claws and all(step.role != role for step in steps):
            continue
        where = (project.mm_per_px, project.crop.x, project.crop.y)
        kit = results.once(project, "kit key", lambda: fingerprint(project.kit))
        story = (told(feature), picture_key(results, project), kit, role, band, where, project.canvas)
        own = ("feature marks", told(story))

        def make(feature: Feature = feature, steps: tuple[FeatureStep, ...] = steps) -> tuple[Marks, ...]:
            read = _feature_read(results, project, feature)
            origin = (project.crop.x, project.crop.y)
            return tuple(feature_marks(feature, steps, role, read, band, origin, project.mm_per_px, SEED))

        made += [((own, k), one) for k, one in enumerate(results.memo.get(own, make))]
    return made
