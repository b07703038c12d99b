"""The correction desk's words: verdicts, reasons, the one cheap test that would decide."""

from __future__ import annotations

LABELS = {
    "right": "The line is right", "steeper": "Steeper", "flatter": "Flatter", "level up": "Warmer as a whole", "level down": "Cooler as a whole",
    "mild end up": "Warmer at the mild end", "mild end down": "Cooler at the mild end", "turn steeper": "Steeper about its middle",
    "turn flatter": "Flatter about its middle", "balance": "Balance: too little water", "emitter": "Emitter or loss of one room",
    "valve": "A valve that holds back", "open valve": "A valve that does not close", "sun": "Sun in one room",
    "not followed": "The controller does not follow its line", "undecided": "Not decided yet",
}  # fmt: skip
LINE = {
    "steeper": "Rooms are cold in cold weather and right in mild: the line wants to be steeper.",
    "flatter": "Rooms are warm in cold weather and right in mild: the line wants to be flatter.",
    "level up": "Rooms are cold in all weathers: the whole line wants to be warmer.",
    "level down": "Rooms are warm in all weathers: the whole line may be cooler.",
    "mild end up": "Rooms are cold in mild weather alone: the mild end goes up, and the line turns flatter with it.",
    "mild end down": "Rooms are warm in mild weather alone: the mild end comes down, and the line turns steeper with it.",
    "turn steeper": "Cold in cold weather and warm in mild: the line wants to turn steeper about its middle.",
    "turn flatter": "Warm in cold weather and cold in mild: the line wants to turn flatter about its middle.",
}
ROOM = {
    "balance": "{room} is cold while the rest is right, and its water comes back {wide}: too little water goes through it. Balance it; leave "
    "the line alone.",
    "emitter": "{room} is cold while the rest is right, with its water as it should be: its emitter gives less, or it loses more, than was "
    "told. Leave the line alone.",
    "valve": "{room} is held back below its target in all weathers: its valve, or the lockshield behind it. Leave the line alone.",
    "open valve": "{room} is warm where its valve should have closed. Leave the line alone.",
    "sun": "{room} gets {swing} K warmer in the sun: that wants a valve in that room (or a blind), not a cooler line for the whole house.",
}
TESTS = {
    "balance": "Open its lockshield half a turn, wait an hour, read both tails: does the return rise?",
    "emitter": "Feel its return beside its neighbours': as warm as theirs, it has its water. Then look at the wall behind it, the window, the "
    "air that moves.",
    "valve": "Take the head off for an hour: if the emitter warms, it was the head; if not, the pin or the lockshield.",
    "open valve": "Close the head by hand: does the emitter cool within the hour? If not, the pin is stuck.",
    "sun": "Compare a dull day with a bright one at the same outdoor temperature.",
    "not followed": "Read the line off the controller itself, then its outdoor sensor against a thermometer in the shade.",
}


def k(value: float) -> str:
    return f"{abs(value):.1f} K"


def c(value: float) -> str:
    return f"{value:.0f} °C".replace("-", "−")


def days(count: int) -> str:
    return "a day" if count == 1 else f"{count} days"
