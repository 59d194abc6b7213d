"""A report as a file holds nothing from outside."""

import pytest

from even_beam.paper.errors import ReportError
from even_beam.paper.page import pdf_of


@pytest.mark.parametrize("url", ["file:///etc/hostname", "http://example.invalid/a.png"])
def test_nothing_outside_a_report_is_fetched(url):
    with pytest.raises(ReportError, match="nothing outside it is fetched"):
        pdf_of(f'<html lang="en"><title>t</title><p>x</p><img alt="a" src="{url}"></html>')
