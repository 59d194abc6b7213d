"""Print every ratio."""

from benchmarks import figures, start_up

for title, report in (("Start-up", start_up.report), ("Figures", figures.report)):
    print(title)
    for line in report():
        print(f"  {line}")
