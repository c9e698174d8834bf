"""What a visit consists of: jobs, the steps in them, and what each step needs."""

from .build import build, jobs_for
from .ids import Aside, Name, Pose, StepId, WaitsFor, of_bike
from .jobs import (
    CHANGE_MINUTES,
    COLD_JOBS,
    JOB_OF,
    JOBS,
    WAITS,
    ColdJob,
    Job,
    JobKind,
    cautions,
    job_id,
)
from .needs import FACTS, Fact, Need
from .recipes.drained import FILTER, NEW, OPEN, REUSED, SEIZED, TURNED
from .steps import Ask, Measured, Place, PlannedTask, Step, TaskPlan, look_up_id
from .work import Makers, Round, Rounds, RunSheet

__all__ = [
    "CHANGE_MINUTES",
    "COLD_JOBS",
    "FACTS",
    "FILTER",
    "JOBS",
    "JOB_OF",
    "NEW",
    "OPEN",
    "REUSED",
    "SEIZED",
    "TURNED",
    "WAITS",
    "Aside",
    "Ask",
    "ColdJob",
    "Fact",
    "Job",
    "JobKind",
    "Makers",
    "Measured",
    "Name",
    "Need",
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
    "job_id",
    "jobs_for",
    "look_up_id",
    "of_bike",
]
