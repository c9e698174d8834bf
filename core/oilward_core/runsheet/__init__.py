"""What a visit consists of: jobs, the steps in them, and what each step needs."""

from ..codes.entries import Ask
from ..codes.facts import Fact
from ..codes.poses import Pose
from ..codes.steps import JobKind, Name, WaitsFor
from .build import build, jobs_for
from .ids import COVER, StepId, cover_id, of_bike, ran_out_id
from .jobs import (
    CHANGE_MINUTES,
    COLD_JOBS,
    JOB_OF,
    JOBS,
    WAITS,
    ColdJob,
    Job,
    cautions,
    job_id,
)
from .needs import MAKERS, Need, done
from .openings import Opening, openings, seal_at
from .steps import Measured, Option, Place, PlannedTask, Step, TaskPlan, look_up_id
from .work import LegSoFar, Makers, Opened, Round, Rounds, RunSheet

__all__ = [
    "CHANGE_MINUTES",
    "COLD_JOBS",
    "COVER",
    "JOBS",
    "JOB_OF",
    "MAKERS",
    "WAITS",
    "Ask",
    "ColdJob",
    "Fact",
    "Job",
    "JobKind",
    "LegSoFar",
    "Makers",
    "Measured",
    "Name",
    "Need",
    "Opened",
    "Opening",
    "Option",
    "Place",
    "PlannedTask",
    "Pose",
    "Round",
    "Rounds",
    "RunSheet",
    "Step",
    "StepId",
    "TaskPlan",
    "WaitsFor",
    "build",
    "cautions",
    "cover_id",
    "done",
    "job_id",
    "jobs_for",
    "look_up_id",
    "of_bike",
    "openings",
    "ran_out_id",
    "seal_at",
]
