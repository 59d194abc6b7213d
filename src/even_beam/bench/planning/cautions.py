"""The usual cautions of work with lamps. They warn and defer to local rules; nothing is ever declared safe."""

NO_ASSESSMENT = "Even Beam makes no assessment for eyes, blue light or UV."
EYES = f"Do not look into the lamp: come from the side, dimmed. Tens of kilolux at a metre are usual. {NO_ASSESSMENT}"
HEAT = "Housings, gels and barn doors scorch: let them cool before touching, and never leave a lit lamp alone."
NEAR = "Near marks only with nobody in the beam."
DARK_ROOM = "Keep the path clear and cables taped; move a lamp dimmed."
MAINS = "Mains load: use measured VA, follow the local code and ask a licensed electrician."
DISCHARGE = "A discharge lamp restrikes hot at high voltage: follow its maker's manual and let it warm up."

FLASHING = (
    "Flashing light can bring on seizures: warn everyone in the room before this step. "
    "Flicker figures here are about cameras, not about health."
)

NEAR_M = 3.0


def for_run(kinds: tuple[str, ...], distances_m: tuple[float, ...]) -> tuple[str, ...]:
    """The cautions that a run of these lamp kinds at these distances calls for."""
    cautions = [EYES, HEAT]
    if any(distance < NEAR_M for distance in distances_m):
        cautions.append(NEAR)
    cautions.append(DARK_ROOM)
    if any("discharge" in kind for kind in kinds):
        cautions.append(DISCHARGE)
    return tuple(cautions)
