"""What a technician reads when something is refused or asked. Codes come from core and server."""

from typing import Any

_EXAMPLES = {
    "volume": "2.7 l, 38 oz or 1 qt 6 oz",
    "torque": "22 N·m, 16 lbf·ft or 186 lbf·in",
    "distance": "15 000 km or 9300 mi",
    "length": "1.5 mm or 6/32 in",
    "temperature": "85 °C",
    "time": "10 min",
}

_SENTENCES = {
    "quantity.empty": "Nothing typed yet. Type an amount with its unit, like 2.7 l or 38 oz.",
    "quantity.not_a_number": "“{word}” is not a number. Type one like 2.7, 2½ or 1 3/8, then the unit.",
    "quantity.unknown_unit": "“{word}” is no unit we know. Try ml, l, qt, fl oz, N·m, lbf·ft, lbf·in, km or mi.",
    "quantity.unit_missing": "{number} of what? Add the unit.",
    "quantity.unfinished": "“{text}” looks unfinished. Type the whole amount.",
    "quantity.too_much": "That is more than one amount. Type one amount, a sum or a range.",
    "quantity.too_large": "That is far more than a workshop measures. Look at the number again.",
    "quantity.range_reversed": "The range runs backwards. Type the smaller value first.",
    "quantity.wrong_kind": "That is a {said}. This field wants a {wanted}, like {example}.",
    "quantity.negative": "A {kind} cannot be below zero. Type the amount itself.",
    "quantity.zero": "Zero is no {kind} to write down. Type what it was.",
    "quantity.one_value": "Type one value here, not a range.",
    "quantity.doubtful_comma": "Is that {first} or {second}? Type it without the comma.",
    "quantity.which_size": "US or imperial? Type {first} or {second}.",
    "quantity.mixed_kinds": "A {said} and a {other} do not add up.",
    "torque.no_wrench": "“{text}” is not set on a wrench.",
    "torque.slip": "{said} is far from anything this plug takes. Do you mean {first}?",
    "torque.adapter": "With that adapter the lever would vanish. Check length and angle.",
    "fluid.two_points": "An oil thins with heat: two temperatures, and the hotter one thinner.",
    "fluid.no_index": "Below 2 cSt at 100 °C there is no viscosity index.",
    "fluid.shares": "The shares of a blend have to add up to the whole.",
    "fluid.out_of_reach": "No blend of these two reaches that viscosity.",
    "fluid.label": "“{label}” is no engine grade.",
    "fill.no_capacity": "The spec sheet has no capacity for this job. Look it up in the manual and have the lead enter it.",
    "odometer.below_last": "The odometer stood at {last} last time; {said} is less. Read it again.",
    "finding.share": "A share of the magnet runs from 0 to 100 %. Type what part of the face is covered.",
    "finding.share_sum": "Together these cover more than the whole magnet. Lower a share.",
    "finding.largest": "The largest piece cannot be smaller than nothing.",
    "finding.count": "Type the count as a whole number.",
    "sheet.choose": "Choose one of: {choices}.",
    "sheet.attitude": "How does the bike stand? Choose one of: {choices}.",
    "sheet.not_ticked": "Not ticked yet: {item}.",
    "sheet.reason": "Write a word on why.",
    "sheet.no_skip": "“{step}” cannot be skipped.",
    "sheet.wrong_kind": "“{step}” does not take that kind of entry.",
    "sheet.position": "Drag the level to where the oil stands.",
    "sheet.no_such_step": "This run sheet has no such step now. Reload it.",
    "sheet.not_yet": "First finish “{step}”.",
    "sheet.already_done": "“{step}” is already written down. Use “Correct” to change it.",
    "sheet.not_started": "“{step}” has not been started.",
    "sheet.too_soon": "“{step}” has to run its full {minutes} minutes.",
    "visit.open_already": "This bike already has an open visit. Go on with that one.",
    "visit.closed": "This visit is closed. Nothing can be added.",
    "visit.not_ready": "Not everything is done. First finish “{step}”.",
    "visit.oil_is_out": "The oil is out. Fill it before this visit can be left.",
    "visit.id_taken": "That entry was already used for something else. Reload and try again.",
    "visit.future": "That time lies in the future. Check the clock of this tablet.",
    "visit.no_sheet": "This bike has no approved spec sheet. Ask the lead to approve one.",
    "visit.no_such_reservoir": "The spec sheet has no such reservoir to service.",
    "access.sign_in": "Sign in to go on.",
    "access.wrong_password": "Name and password do not fit together. Try again.",
    "access.role": "Your role may look but not do this. Ask a technician or the lead.",
    "access.slow_down": "Too many tries. Wait a minute, then try again.",
    "not_found": "There is nothing here under that name.",
}


def sentence(code: str, fields: dict[str, Any]) -> str:
    """The sentence for a code, filled with its facts."""
    options = [str(option) for option in fields.get("options", [])]
    facts = {
        "word": "",
        "text": "",
        **fields,
        "example": _EXAMPLES.get(str(fields.get("wanted")), "2.7 l"),
        "choices": ", ".join(options),
        "first": options[0] if options else "",
        "second": options[1] if len(options) > 1 else "",
    }
    return _SENTENCES[code].format_map(facts)
