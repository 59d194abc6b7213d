"""Print every ratio."""

from benchmarks import figures, honesty, limits, planning, scale, start_up, steps

for title, report in (
    ("Start-up", start_up.report),
    ("Figures", figures.report),
    ("Limits", limits.report),
    ("Honesty", honesty.report),
    ("Plan", planning.report),
    ("Steps", steps.report),
    ("Scale", scale.report),
):
    print(title)
    for line in report():
        print(f"  {line}")
