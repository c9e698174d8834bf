"""Reading the golden visits: what the last release wrote down, and what it answered."""

import json
import re
from collections.abc import Callable, Mapping
from dataclasses import asdict, dataclass
from datetime import UTC, datetime
from decimal import Decimal
from functools import cache
from pathlib import Path as File
from typing import Any

from oilward_bench import About, run_sheet
from oilward_bench.shapes import BikeName
from oilward_core.bench import (
    Bench,
    Closing,
    Entry,
    Speaker,
    TaskClosing,
    VisitPlan,
    Written,
    carried_over,
    fold,
)
from oilward_core.bench.closing import read_kept
from oilward_core.codes.options import Look
from oilward_core.runsheet import TaskPlan
from oilward_core.said.options import ON_A_LIFT, POSES
from oilward_core.spec import FillRule

Stored = Mapping[str, Any]
KM = Decimal(8000)


@dataclass(frozen=True)
class Answer:
    """What that release said after so many entries."""

    after: int
    said: dict[str, Any]


@dataclass(frozen=True, kw_only=True)
class Golden:
    """A visit of the last release: its plan, its entries as stored, its answers."""

    name: str
    description: int
    plan: VisitPlan
    bench: Bench
    speaks: Speaker
    written: tuple[Stored, ...]
    answers: tuple[Answer, ...]

    def entries(self, after: int) -> list[Entry]:
        """The first so many entries, as this description writes them."""
        written = [as_written(one, self.description) for one in self.written[:after]]
        return carried_over(self.plan, written)

    def answer(self, after: int) -> dict[str, Any]:
        """What is answered now after so many entries."""
        sheet = fold(self.plan, self.entries(after), self.bench)
        tasks = tuple(
            TaskClosing(plan=plan, fluid="Oil A", bottle_ml=Decimal(1000))
            for plan in self.plan.tasks
        )
        shape = run_sheet(Closing(tasks, sheet, KM), about(), self.speaks)
        return dict(json.loads(json.dumps(asdict(shape), default=str)))


@dataclass(frozen=True)
class Change:
    """A rule that changed an answer on purpose: why, and whether it explains a difference."""

    why: str
    explains: Callable[[Golden, str, Any, Any], bool]


def _task(visit: Golden, at: str) -> TaskPlan | None:
    """The task a difference is about."""
    found = re.match(r"/tasks/(\d+)/", at)
    return visit.plan.tasks[int(found[1])] if found else None


def _exact(visit: Golden, at: str, then: Any, now: Any) -> bool:
    task = _task(visit, at)
    gauged = task is None or task.reservoir.fill_rule == FillRule.LEVEL
    return not gauged and re.search(r"/coach/(belief|reasons)", at) is not None


def _said_since(visit: Golden, at: str, then: Any, now: Any) -> bool:
    return at.endswith("/went_in") and then is None


def _named_a_cause(visit: Golden, at: str, then: Any, now: Any) -> bool:
    return any(entry["kind"] == "cause" for entry in visit.written)


# steps that were not asked then, and what a step that waits for one of them says
_STEPS_NEW = (
    "wheel looked at",
    "engine/came",
    "lamp",
    "stands",
    "leaks again",
    "/torque filler",
    "/torque filter",
    "/torque cover.cover screw",
)
_WAITS_NEW = tuple(
    f"“{title}” is not done"
    for title in (
        "The level as it came",
        "Start it, watch the oil light",
        "Let it stand",
        "Look for leaks again",
        "Torque the filler",
        "Torque the filter",
        "Torque the filter cover",
        "Close the cover",
    )
)


_OF_A_LEG = (
    r"“Fork, .*: (measure what came out|look at its oil|look along the tube|seals and bushes)”"
)
_OF_THE_WHEEL = "the front wheel is not back in|“A second person looks at axle"
_WHEEL_OR_LEG = re.compile(rf"“Torque the .*, fork|{_OF_THE_WHEEL}|{_OF_A_LEG}")


def _waits_for_the_new(visit: Golden, at: str, then: Any, now: Any) -> bool:
    if not re.fullmatch(r"/steps/\d+/unmet", at):
        return False
    more = {one for one in now or () if one not in (then or ())}
    return bool(more) and {one for one in more if not _WHEEL_OR_LEG.match(one)} <= set(_WAITS_NEW)


def _closed_below(visit: Golden, at: str, then: Any, now: Any) -> bool:
    if not re.fullmatch(r"/steps/\d+/unmet", at):
        return False
    # a start that is blocked by a need is not held back by a stop besides
    more = [one for one in now or () if one not in (*(then or ()), *_WAITS_NEW)]
    more = [one for one in more if not _WHEEL_OR_LEG.match(one)]
    return bool(more) and all(one.endswith("is not closed below") for one in more)


def _looks_before_the_start(visit: Golden, at: str, then: Any, now: Any) -> bool:
    poses = {*POSES.values(), ON_A_LIFT}
    return bool(re.fullmatch(r"/steps/\d+/options", at)) and not then and poses >= set(now)


def _on_a_lift(visit: Golden, at: str, then: Any, now: Any) -> bool:
    asks = re.fullmatch(r"/steps/\d+/options", at) is not None
    return asks and bool(then) and now == [*then, ON_A_LIFT]


def _spread(belief: str) -> tuple[str, Decimal] | None:
    found = re.fullmatch(r"(I expect [\d.]+) ± ([\d.]+) \S.* in all\.", belief)
    return (found[1], Decimal(found[2])) if found else None


def _never_too_sure(visit: Golden, at: str, then: Any, now: Any) -> bool:
    if not at.endswith("/coach/belief"):
        return False
    before, after = _spread(then), _spread(now)
    return bool(before and after and before[0] == after[0] and after[1] > before[1])


def _stops_with_both_numbers(visit: Golden, at: str, then: Any, now: Any) -> bool:
    if at.endswith("/coach/causes"):
        return list(now[: len(then)]) == list(then)
    return at.endswith("/coach/words") and str(now).startswith(f"{then} ")


@cache
def _too_much(name: str) -> bool:
    visit = next(one for one in GOLDEN if one.name == name)
    stops = visit.answer(len(visit.written))["stops"]
    return any("is in, and the book says" in stop["text"] for stop in stops)


def _more_than_it_holds(visit: Golden, at: str, then: Any, now: Any) -> bool:
    return at in ("/ready_to_sign", "/stops", "/open_points") and _too_much(visit.name)


def _filter_after_a_run(visit: Golden, at: str, then: Any, now: Any) -> bool:
    ran = [one["at"] for one in visit.written if one["kind"] == "start" and "run." in one["step"]]
    filters = [one["at"] for one in visit.written if one["kind"] == "filter"]
    return bool(ran and filters) and max(filters) > min(ran)


def _filling(step: Mapping[str, Any]) -> bool:
    return re.search(r"/(fill|settle|level)\.\d+$", step["id"]) is not None


def _stays(visit: Golden, at: str, then: Any, now: Any) -> bool:
    if re.search(r"/coach/(action|words|amount|bottles|reasons)$", at):
        return (
            then in ("", 0.0, "read")
            or "Run it, let it settle" in str(then)
            or at.endswith("reasons")
        )
    if at == "/focus":
        return re.search(r"/fill\.\d+$", str(now)) is not None
    # the same steps, but for those of a filling that were there too early
    return at == "/steps" and [s["id"] for s in then if not _filling(s)] == [
        s["id"] for s in now if not _filling(s)
    ]


@cache
def _gave_little(name: str) -> bool:
    visit = next(one for one in GOLDEN if one.name == name)
    answers = (visit.answer(one.after) for one in visit.answers)
    return any(step["id"].endswith("/all out") for one in answers for step in one["steps"])


def _asks_if_empty(visit: Golden, at: str, then: Any, now: Any) -> bool:
    asked = at in ("/focus", "/ready_to_sign", "/open_points") or at.startswith("/steps")
    return asked and _gave_little(visit.name)


def _settles_after_a_run(visit: Golden, at: str, then: Any, now: Any) -> bool:
    found = re.fullmatch(r"/steps/\d+/(started_at|ends_at|not_before)", at)
    return bool(found and then and now and now > then)


def _stays_at_the_run(visit: Golden, at: str, then: Any, now: Any) -> bool:
    return at == "/focus" and re.fullmatch(r"run\.\d+", str(now)) is not None


def _asks_first(visit: Golden, at: str, then: Any, now: Any) -> bool:
    return at == "/focus" and str(now).endswith(_STEPS_NEW)


def _ready_once_asked(visit: Golden, at: str, then: Any, now: Any) -> bool:
    return bool(re.fullmatch(r"/steps/\d+/status", at)) and (then, now) == ("ready", "blocked")


def _rides(visit: Golden, at: str, then: Any, now: Any) -> bool:
    return at.endswith("/instruction") and "at idle" in str(then) and "A ride" in str(now)


def _draws_the_stick(visit: Golden, at: str, then: Any, now: Any) -> bool:
    return (
        at.endswith("/instruction") and "with the dipstick" in str(then) and "draw it" in str(now)
    )


def _strapped_to_look(visit: Golden, at: str, then: Any, now: Any) -> bool:
    return at.endswith("/instruction") and str(then).startswith("Wipe everything first")


def _strapped_for_a_leg(visit: Golden, at: str, then: Any, now: Any) -> bool:
    if not at.endswith("/unmet") or not isinstance(now, list):
        return False
    told = [one for one in now if not _WHEEL_OR_LEG.match(one)]
    before = [one for one in then or [] if not one.endswith("put it back” is not done")]
    return told in ([*before, "the bike is not strapped down"], ["the bike is not strapped down"])


_HANDS_THEN = (
    "Loosen the cap while",
    "To its mark in the bridge",
    "Axle, pinch bolts and calliper",
)
_TICKED_THEN = (
    "Cap loosened, leg out",
    "Cap and pinch bolts torqued",
    "A second person has looked at axle and brake",
)


def _order_of_the_hands(visit: Golden, at: str, then: Any, now: Any) -> bool:
    if re.fullmatch(r"/steps/\d+/instruction", at):
        return str(then).startswith(_HANDS_THEN)
    if re.fullmatch(r"/steps/\d+/unmet/\d+", at):
        return _WHEEL_OR_LEG.match(str(now)) is not None
    if at == "/focus":
        return str(now) == "wheel looked at"
    ticked = re.fullmatch(r"/steps/\d+/items(/\d+)?", at) is not None
    return ticked and any(tick in (then or ()) for tick in _TICKED_THEN)


@cache
def _opened_since_looked_at(name: str, after: int) -> bool:
    visit = next(one for one in GOLDEN if one.name == name)
    dry = [one["at"] for one in visit.written[:after] if one["kind"] == "leaks"]
    out = [one["at"] for one in visit.written[:after] if one["kind"] == "draw"]
    return bool(dry and out) and max(out) > max(dry)


def _looked_at_again(visit: Golden, at: str, then: Any, now: Any) -> bool:
    found = re.fullmatch(r"/steps/\d+/(entry|reopened|status)", at)
    if not (found or at in ("/focus", "/ready_to_sign")):
        return False
    return any(_opened_since_looked_at(visit.name, one.after) for one in visit.answers)


def _no_tick_for_a_filler(visit: Golden, at: str, then: Any, now: Any) -> bool:
    if not re.fullmatch(r"/steps/\d+/items", at) or not then:
        return False
    return bool(now == [one for one in then if "fill plug torqued to" not in str(one).lower()])


def _filter_by_wrench(visit: Golden, at: str, then: Any, now: Any) -> bool:
    if at.endswith("/instruction"):
        return "By hand only" in str(then) and "the wrench comes next" in str(now)
    if at == "/open_points":
        more = [one["text"] for one in now or () if one not in (then or ())]
        return bool(more) and all("not torqued" in text for text in more)
    return re.fullmatch(r"/tasks/\d+/standing/\d+/(open|word)", at) is not None and (
        now is True or str(now).endswith("not torqued")
    )


def _filter_while_it_drips(visit: Golden, at: str, then: Any, now: Any) -> bool:
    if re.fullmatch(r"/steps/\d+/unmet", at):
        gone = {one for one in then or () if one not in (now or ())}
        return bool(gone) and all("Torque the plug" in one or "Drain the" in one for one in gone)
    return bool(re.fullmatch(r"/steps/\d+/status", at)) and (then, now) == ("blocked", "ready")


def _manuals_own_paste(visit: Golden, at: str, then: Any, now: Any) -> bool:
    if not at.endswith("/torque/reasons"):
        return False
    return bool(now == [one for one in then if one["rule"] != "lower third suggested"])


def _element(visit: Golden, at: str, then: Any, now: Any) -> bool:
    if at.endswith("/instruction"):
        return "Spin to contact" in str(then) and "Mind the way it sits" in str(now)
    return "/items/" in at and (then, now) == (
        "Old gasket came off with the old filter",
        "New filter in, right way round",
    )


def _cover_closed(visit: Golden, at: str, then: Any, now: Any) -> bool:
    if at == "/open_points":
        more = [one["text"] for one in now or () if one not in (then or ())]
        return bool(more) and all("not torqued" in t or "not closed yet" in t for t in more)
    return re.fullmatch(r"/tasks/\d+/standing/\d+/(open|word)", at) is not None and (
        now is True or str(now).endswith("not torqued")
    )


def _to_what(visit: Golden, at: str, then: Any, now: Any) -> bool:
    told = str(now).startswith(f"{then}, ") and str(then).endswith("torqued")
    return told and re.fullmatch(r"/tasks/\d+/standing/\d+/word", at) is not None


def _circuit_closed(visit: Golden, at: str, then: Any, now: Any) -> bool:
    return (then, now) in (("opened", "done"), (True, None), (True, False)) and "standing" in at


def _no_dirt_excuses(visit: Golden, at: str, then: Any, now: Any) -> bool:
    """Milky engine oil out of a pan that was not clean holds."""
    milky = any("milky" in str(one["data"].get("oil")) for one in visit.written)
    if at == "/stops":
        new = [stop for stop in now if stop not in then]
        return milky and all(one["step"].endswith(("/inspect", "/look")) for one in new)
    return milky and re.search(r"/verdict/(action|level)$|/ready_to_sign$|/remark$", at) is not None


def _origins(visit: Golden, at: str, then: Any, now: Any) -> bool:
    return at.endswith("/verdict/origin") and now == "bearing overlay or piston"


def _to_the_ml(visit: Golden, at: str, then: Any, now: Any) -> bool:
    return at.endswith("/text") and re.sub(r"with \d+\.\d+ ml", "", str(then)) == re.sub(
        r"with \d+ ml", "", str(now)
    )


def _once_a_screen(visit: Golden, at: str, then: Any, now: Any) -> bool:
    return at.endswith("/instruction") and "Low brake fluid usually means" in str(then)


def _in_ml(visit: Golden, at: str, then: Any, now: Any) -> bool:
    return at.endswith("/coach/belief") and "I expect 0." in str(then) and " ml in all" in str(now)


def _says_what_hurts(visit: Golden, at: str, then: Any, now: Any) -> bool:
    return at.endswith("/caution") and "second signature" in str(then)


def _coolant_cap(visit: Golden, at: str, then: Any, now: Any) -> bool:
    return at.endswith("/caution") and "hot radiator cap" in str(now)


def _missing_piece(visit: Golden, at: str, then: Any, now: Any) -> bool:
    if at.endswith("/text"):
        return str(now).startswith("A piece of the old seal is missing: find it before")
    torn = any(one["data"].get("seal_missing") for one in visit.written)
    return torn and at in ("/stops", "/ready_to_sign", "/focus")


def _looks_are_judged(visit: Golden, at: str, then: Any, now: Any) -> bool:
    if at.endswith("/options"):
        return list(now) == [*then, "could not be seen"]
    if at.endswith("/remark"):
        return not then and str(now).startswith(("Hold: ", "Investigate: ", "Note: "))
    if at != "/stops":
        return False
    new = [stop for stop in now if stop not in then]
    return bool(new) and all(one["hold"] and one["step"].endswith("/look") for one in new)


def _legs_oil_stands_beside_it(visit: Golden, at: str, then: Any, now: Any) -> bool:
    if not re.fullmatch(r"/tasks/\d+/standing", at):
        return False
    more = [one for one in now if one not in then]
    left = [one for one in now if one in then]
    told = all(
        (one["part"] == "Oil" and " poured" in one["word"]) or one["part"] == "Air gap"
        for one in more
    )
    return bool(more) and told and left == then


def _legs_are_looked_over(visit: Golden, at: str, then: Any, now: Any) -> bool:
    if at == "/focus":
        return re.match(r"fork .*/(measure|inspect)$", str(now)) is not None
    if re.fullmatch(r"/steps/\d+/status", at):
        forks = any(task.reservoir.key.startswith("fork") for task in visit.plan.tasks)
        return forks and (then, now) == ("ready", "blocked")
    if not at.endswith("/unmet") or not isinstance(now, list):
        return False
    return [one for one in now if not _WHEEL_OR_LEG.match(one)] == (then or [])


def _how_it_may_be_typed(visit: Golden, at: str, then: Any, now: Any) -> bool:
    return re.fullmatch(r"/steps/\d+/measured/\d+/like", at) is not None and not then


def _held_by_a_look(visit: Golden, at: str, then: Any, now: Any) -> bool:
    if not (at == "/ready_to_sign" or at.endswith(("/status", "/unmet")) or at == "/focus"):
        return False
    looked = [one["data"].get("value") for one in visit.written if one["step"].endswith("/look")]
    return bool({Look.LOW_LEFT, Look.SOFT, "low, left as found", "damping is gone"} & set(looked))


CHANGED: tuple[Change, ...] = (
    Change("a filler is torqued by a card, before the look for leaks", _no_tick_for_a_filler),
    Change("a filter with a torque is not turned on by hand", _filter_by_wrench),
    Change("a filter behind a cover is an element, not spun on", _element),
    Change("a cover that was opened is closed by a card", _cover_closed),
    Change("a circuit whose cover is on is closed", _circuit_closed),
    Change("to what it was torqued stands beside it", _to_what),
    Change("a filter comes off while the case drips", _filter_while_it_drips),
    Change("what the manual puts on a thread is in its range already", _manuals_own_paste),
    Change("nobody goes under a bike that is not strapped down", _strapped_to_look),
    Change("legs come out and go back by the order of the hands", _order_of_the_hands),
    Change("how a value might be typed is said", _how_it_may_be_typed),
    Change("a leg is looked over before it is filled", _legs_are_looked_over),
    Change("a leg's oil and its gap stand beside it", _legs_oil_stands_beside_it),
    Change("no wheel and no leg comes out or goes in unstrapped", _strapped_for_a_leg),
    Change("what was out after a look for leaks is looked at again", _looked_at_again),
    Change("a dipstick is wiped, seated and drawn", _draws_the_stick),
    Change("the level as it came and the oil lamp are asked before an engine runs", _asks_first),
    Change("what waits for them is blocked until they are", _ready_once_asked),
    Change("and says so", _waits_for_the_new),
    Change("with a gearbox or a final drive along, the warm-up is a ride", _rides),
    Change("nobody leaves an engine that runs on new oil", _stays_at_the_run),
    Change("a level that wants no run settles anew where the engine ran", _settles_after_a_run),
    Change("under half of what was in came out: whether that is all is asked", _asks_if_empty),
    Change("a gauge may be looked at before the first start", _looks_before_the_start),
    Change("a lift is an attitude", _on_a_lift),
    Change(
        "nobody is surer than 1 % of the book, or an eighth of the glass, of what was read once",
        _never_too_sure,
    ),
    Change(
        "a stop has both numbers in sight, and a lead may stand by the gauge",
        _stops_with_both_numbers,
    ),
    Change("more than 1.15 of the book is signed once a lead has looked", _more_than_it_holds),
    Change(
        "a filter that goes on once the engine has run takes oil of its own: run and level anew",
        _filter_after_a_run,
    ),
    Change(
        "a filling stays, with all that is poured, until no more is safely poured: open visits of then "
        "stand in another round of it",
        _stays,
    ),
    Change("an engine does not start with a plug out", _closed_below),
    Change("an exact quantity is measured whole, not estimated", _exact),
    Change(
        "a cause acts: what was called wrong is read again, old oil is drained again, so that the level "
        "of these visits is open again",
        _named_a_cause,
    ),
    Change("a look that is not fine is judged as a finding is", _looks_are_judged),
    Change("what a look holds is not signed", _held_by_a_look),
    Change("a dirty pan excuses neither a chip nor milky oil", _no_dirt_excuses),
    Change("flakes that a magnet ignores are overlay or piston", _origins),
    Change("the manual's first amount is said to the millilitre", _to_the_ml),
    Change("a look asks for no second signature, and says what hurts", _says_what_hurts),
    Change("a hot radiator cap stays shut", _coolant_cap),
    Change("what a sheet warns of itself is not said twice", _once_a_screen),
    Change("what is less than a litre is expected in ml, as it is poured", _in_ml),
    Change("a missing piece of seal is found before the engine runs", _missing_piece),
    Change("the oil that went in is said beside the one that was chosen", _said_since),
)


def about() -> About:
    """What that release was told besides the visit."""
    return About(
        id="v",
        state="open",
        bike=BikeName("b", "Tern", "M N"),
        layout="",
        sheet_version=1,
        odometer=f"{KM} km",
        corrected="",
        closed_by="",
        wants="",
        ride_in="",
        ride_out="",
        now=datetime(2026, 5, 4, 9, tzinfo=UTC),
        seconds_per_minute=60.0,
        mentor="Oda",
    )


_ABOUT = (
    *("id", "state", "bike", "sheet_version", "odometer", "now", "seconds_per_minute", "closed_by"),
    *("layout", "plugs", "corrected", "wants", "ride_in", "ride_out", "words", "poses", "asides"),
    "waits_for",
)


_NEW = (
    "taken_by_who",
    "in_hands_of_who",
    "who",
    "lent_by_who",
    "code",
    "entries",
    "taps",
    "enough",
    "leaves",
    "lasts",
    "opens_again",
    "card",
    "answered",
    "old_oil",
    "flush",
    "opened",
    "closed",
    "no_magnet",
    "tears",
    "at_once",
    "ring",
    "ticked",
    "pulled",
    "second",
    "half",
    "calibration",
    "found_in",
    "once",
    "leg",
)


_HOLDS_A_LEG = re.compile(
    r"/torque (leg|wheel)\.|^stroke$|^fork.*/(measure|inspect|leg (tube|seals|spring|set|back))$"
)


def _is_new(one: Any) -> bool:
    if not isinstance(one, dict):
        return False
    if _HOLDS_A_LEG.search(str(one.get("id", ""))) or one.get("part") == "Cap":
        return True
    if re.search(r"^fork.*: cap .*not torqued$", str(one.get("text", ""))):
        return True
    return str(one.get("id", "")).endswith(_STEPS_NEW) or str(one.get("part", "")).lower().endswith(
        "cover"
    )


def in_words_of_then(answer: Any) -> Any:
    """An answer as that release put it: what is an option by now was its words alone, persons were
    their names, and what is asked by now was not."""
    if isinstance(answer, list):
        return [in_words_of_then(one) for one in answer if not _is_new(one)]
    if not isinstance(answer, dict):
        return answer
    if set(answer) == {"code", "words"}:
        return answer["words"]
    if set(answer) == {"name", "marks", "how", "warm", "edge"}:  # a gauge had its usual marks alone
        return in_words_of_then({"name": answer["name"], **answer["marks"][0]})
    left_out = (*_ABOUT, *_NEW) if "steps" in answer else _NEW
    return {key: in_words_of_then(one) for key, one in answer.items() if key not in left_out}


def as_written(one: Stored, description: int) -> Written:
    """An entry as that release stored it; whoever wrote it is told apart by the name."""
    return Written(
        id=one["id"],
        step=one["step"],
        kind=one["kind"],
        data=one["data"],
        at=datetime.fromisoformat(one["at"]),
        by=one["by"],
        who=one["by"],
        description=description,
        supersedes=one["supersedes"],
    )


def _read(path: File) -> Golden:
    document = json.loads(path.read_text())
    return Golden(
        name=path.stem,
        description=document["description"],
        plan=read_kept(document["plan"], VisitPlan),
        bench=read_kept(document["bench"], Bench),
        speaks=Speaker(**document["speaks"]),
        written=tuple(document["entries"]),
        answers=tuple(Answer(one["after"], one["answer"]) for one in document["answers"]),
    )


FOLDER = File(__file__).parent / "golden" / "visits"
GOLDEN = tuple(_read(path) for path in sorted(FOLDER.glob("*.json")))
