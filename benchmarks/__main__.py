"""Print every ratio."""

from benchmarks import (
    camera,
    figures,
    handing_over,
    honesty,
    limits,
    matching,
    planning,
    scale,
    second_look,
    sharing,
    stalls,
    start_up,
    steps,
    store,
    wires,
)

for title, report in (
    ("Start-up", start_up.report),
    ("Figures", figures.report),
    ("Limits", limits.report),
    ("Honesty", honesty.report),
    ("Second look", second_look.report),
    ("Plan", planning.report),
    ("Match", matching.report),
    ("Camera", camera.report),
    ("Handing over", handing_over.report),
    ("Steps", steps.report),
    ("Stalls", stalls.report),
    ("Scale", scale.report),
    ("Store", store.report),
    ("Wires", wires.report),
    ("Sharing", sharing.report),
):
    print(title)
    for line in report():
        print(f"  {line}")
