import threading

from even_beam.shell.job import Job
from even_beam.shell.notice import Notice


def test_done_failed_progress():
    results, progress = [], []
    Job(
        "good",
        lambda job: (job.progress(0.5, "half"), 7)[1],
        results.append,
        results.append,
        on_progress=lambda s, w: progress.append((s, w)),
    ).start().wait()
    assert results == [7]
    assert progress == [(0.5, "half")]

    def fail(_: Job) -> None:
        raise ValueError("no")

    errors: list[Exception] = []
    Job("bad", fail, results.append, errors.append).start().wait()
    assert str(errors[0]) == "no"
    assert results == [7]


def test_a_cancelled_job_delivers_nothing():
    started, results = threading.Event(), []

    def work(job: Job) -> int:
        started.set()
        while True:
            job.stop_if_cancelled()

    job = Job("endless", work, results.append, results.append).start()
    started.wait()
    job.cancel()
    job.wait(5)
    assert results == []


def test_notices_reach_everyone_in_order():
    heard: list[str] = []
    notice: Notice[[str]] = Notice()
    notice.connect(lambda word: heard.append(f"a {word}"))
    notice.connect(lambda word: heard.append(f"b {word}"))
    notice("now")
    assert heard == ["a now", "b now"]
