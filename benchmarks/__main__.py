"""Print every ratio."""

from benchmarks import figures, limits, start_up, steps

for title, report in (
    ("Start-up", start_up.report),
    ("Figures", figures.report),
    ("Limits", limits.report),
    ("Steps", steps.report),
):
    print(title)
    for line in report():
        print(f"  {line}")
