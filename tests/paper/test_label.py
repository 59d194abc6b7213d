"""Labels measured: their size, their smallest type, their boxes, and their code read back by another decoder."""

import re

import cv2
import numpy as np
import pytest
import zxingcpp
from hypothesis import given
from hypothesis import strategies as st
from pypdf import PdfReader
from PyQt6.QtCore import QSize
from PyQt6.QtGui import QImage
from PyQt6.QtPdf import QPdfDocument

from even_beam.fonts.widths import width_mm
from even_beam.paper.label import MODULE_MM, SIZES, SMALLEST_PT, LabelContent, code_text, laid_out
from even_beam.paper.label_pages import labels_html, write_labels
from even_beam.paper.qr_code import modules_of

LONG = "A lamp with a name of sixty characters that nobody would say"
BURDOCK = LabelContent(
    "Burdock",
    "reflector · 100 % · 17 Nov 2026 · Spectrometer 2",
    (
        "3200 gives 3\u202f233 K, Duv −0.0038", "5600 gives 6\u202f050 K, Duv −0.0003", "dial 5240 for 5600 K",
        "at 1 %, the lowest read, 1.05 % of full", "softbox against bare: −1.20 stops, +4 mired",
    ),
)  # fmt: skip


def _boxes(label):
    found = [(one.x_mm, one.y_mm, one.width_mm, one.height_mm) for one in label.placed]
    if label.code is not None:
        found.append((label.code.x_mm, label.code.y_mm, label.code.side_mm, label.code.side_mm))
    return found


def _apart(a, b):
    eps = 1e-6
    return (
        a[0] + a[2] <= b[0] + eps or b[0] + b[2] <= a[0] + eps or a[1] + a[3] <= b[1] + eps or b[1] + b[3] <= a[1] + eps
    )


texts = st.text(st.characters(codec="latin-1", exclude_categories=("C", "Z")), min_size=1, max_size=60)


@given(
    st.sampled_from(list(SIZES)),
    st.one_of(texts, st.just(LONG)),
    st.lists(st.one_of(texts, st.sampled_from(BURDOCK.lines)), max_size=12, unique=True),
)
def test_nothing_overlaps_leaves_the_label_or_is_lost(size, name, lines):
    content = LabelContent(name, BURDOCK.read, tuple(lines))
    label = laid_out(content, SIZES[size])
    boxes = _boxes(label)
    for place, box in enumerate(boxes):
        assert box[0] >= 0.0 and box[1] >= -1e-6
        assert box[0] + box[2] <= label.width_mm + 1e-6 and box[1] + box[3] <= label.height_mm + 1e-6
        assert all(_apart(box, other) for other in boxes[place + 1 :])
    assert label.smallest_pt >= SMALLEST_PT
    printed = "".join(one.text for one in label.placed).replace(" ", "")
    for line in lines:
        assert line.replace(" ", "") in printed or line in label.left_off, line
    if label.code is not None:
        assert label.code.side_mm / label.code.modules >= MODULE_MM - 1e-9
        assert all(code_text([line]) in label.code.text or line in label.left_off_code for line in lines)
    else:
        assert set(lines) <= set(label.left_off_code)


def test_wide_rolls_and_tapes_are_no_longer_than_they_may_be():
    many = LabelContent(LONG, BURDOCK.read, tuple(f"line {n} of far too many for any label" for n in range(60)))
    for size in SIZES.values():
        label = laid_out(many, size)
        assert label.left_off, size.name
        if size.height_mm is None:
            assert label.height_mm <= size.most_mm and label.width_mm == size.width_mm
        elif size.width_mm is None:
            assert label.width_mm <= size.most_mm + 1e-6 and label.height_mm == size.height_mm


def test_widths_are_those_of_the_font():
    """The advance of a space and of figures as fontTools reads them; figures of this family are all as wide."""
    assert width_mm("00", 10.0) == pytest.approx(2.0 * width_mm("1", 10.0))
    assert width_mm("a", 20.0) == pytest.approx(2.0 * width_mm("a", 10.0))
    assert width_mm("Burdock", 10.0, bold=True) >= width_mm("Burdock", 10.0)


MM = 72.0 / 25.4


@pytest.mark.parametrize("name", SIZES)
def test_pages_are_of_exact_size_and_hold_the_text(qapp, tmp_path, name):
    size = SIZES[name]
    labels = [laid_out(BURDOCK, size), laid_out(LabelContent("Yarrow", "bare · 100 %", ("3\u202f190 K",)), size)]
    path = tmp_path / "labels.pdf"
    write_labels(labels, size, path)
    reader = PdfReader(path)
    assert len(reader.pages) == (1 if size.page_mm else 2)
    box = reader.pages[0].mediabox
    wanted = size.page_mm or (labels[0].width_mm, labels[0].height_mm)
    assert (float(box.width) / MM, float(box.height) / MM) == pytest.approx(wanted, abs=0.1)
    text = "".join(page.extract_text() for page in reader.pages)
    for one in labels[0].placed:
        assert re.sub(r"\s", "", one.text) in re.sub(r"\s", "", text), one.text
    read = {code.text for code in zxingcpp.read_barcodes(_picture(path))}
    assert labels[0].code is not None and labels[0].code.text in read


def test_the_code_is_read_by_a_reader_of_other_make_than_its_writer():
    """ISO/IEC 18004 both: OpenCV reads what ZXing wrote; letters beyond ASCII, which it does not know, ZXing reads."""
    for level in ("m", "l"):
        for text in ("Tansy 2\n5600: 5612 K +0.0003", "A\n" + "5600 gives 5580 K; dial 5620\n" * 9):
            modules = modules_of(text, level)
            assert modules.shape[0] == modules.shape[1] and (modules.shape[0] - 8 - 17) % 4 == 0, "4 versions + 17"
            assert (modules[:4] == 255).all() and (modules[:, -4:] == 255).all(), "its quiet margin"
            large = np.kron(modules, np.full((6, 6), 1, np.uint8))
            assert cv2.QRCodeDetector().detectAndDecode(large)[0] == text
    for text in ("Königskerze\n3200: 3190 K", "פנס\n5600: 5580 K", "灯\n5600"):
        large = np.kron(modules_of(text, "m"), np.full((4, 4), 1, np.uint8))
        assert [code.text for code in zxingcpp.read_barcodes(large)] == [text]
    assert modules_of("x" * 4000, "m") is None
    assert len(modules_of("x" * 120, "l")) < len(modules_of("x" * 120, "m")), "fewer errors mended, more text held"


def _picture(path, dpi=400.0):
    """The first page as a printer of 400 dots an inch would have it."""
    document = QPdfDocument(None)
    document.load(str(path))
    size = document.pagePointSize(0)
    drawn = document.render(0, QSize(round(size.width() * dpi / 72.0), round(size.height() * dpi / 72.0)))
    image = drawn.convertToFormat(QImage.Format.Format_RGBA8888)
    bits = image.constBits()
    bits.setsize(image.sizeInBytes())
    rgba = np.frombuffer(bits, np.uint8).reshape(image.height(), image.width(), 4).astype(np.float64)
    alpha = rgba[..., 3:] / 255.0
    grey = (rgba[..., :3] * alpha + 255.0 * (1.0 - alpha)).mean(axis=-1)
    return np.ascontiguousarray(grey.astype(np.uint8))


def test_type_in_the_pdf_is_as_small_as_said_and_no_smaller(tmp_path):
    size = SIZES["Letter-3x10"]
    label = laid_out(BURDOCK, size)
    write_labels([label], size, tmp_path / "labels.pdf")
    sizes = []

    def visit(text, matrix, inner, font, font_size):
        if text.strip():
            sizes.append(abs(font_size * inner[3] * matrix[3]))

    PdfReader(tmp_path / "labels.pdf").pages[0].extract_text(visitor_text=visit)
    assert min(sizes) >= SMALLEST_PT - 0.05
    assert min(sizes) == pytest.approx(label.smallest_pt, abs=0.1)


@pytest.mark.parametrize("name", ["A4-3x8", "Letter-3x10"])
def test_a_sheet_begins_where_the_last_one_ended(tmp_path, name):
    size = SIZES[name]
    labels = [laid_out(LabelContent(f"Lamp {n}", "bare", ("5600 gives 5600 K",)), size) for n in range(3)]
    text = labels_html(labels, size, start=size.of_sheet - 1)
    assert text.count('class="sheet"') == 2  # two on the first, the third on a new one
    first = re.search(r"left:([\d.]+)mm;top:([\d.]+)mm[^>]*>Lamp 0", text)
    pitch = (size.width_mm or 0.0) + size.gap_mm
    assert float(first[1]) == pytest.approx(size.margin_mm[0] + pitch * (size.columns - 2) + size.edge_mm, abs=0.01)
    assert float(first[2]) == pytest.approx(
        size.margin_mm[1] + (size.height_mm or 0.0) * (size.rows - 1) + size.edge_mm, abs=0.01
    )
    for start in (0, size.of_sheet + 1):
        with pytest.raises(ValueError, match="the places are 1 to"):
            labels_html(labels, size, start)


def test_sheets_fit_their_paper():
    for size in SIZES.values():
        if size.page_mm is not None:
            wide = size.columns * (size.width_mm or 0.0) + (size.columns - 1) * size.gap_mm + 2.0 * size.margin_mm[0]
            assert wide <= size.page_mm[0] + 0.05
            assert size.rows * (size.height_mm or 0.0) + 2.0 * size.margin_mm[1] <= size.page_mm[1] + 0.05


def test_names_stand_as_they_are():
    size = SIZES["A4-3x8"]
    text = labels_html([laid_out(LabelContent("<b>$5 & co</b>", "bare", ()), size)], size)
    assert "&lt;b&gt;$5 &amp; co&lt;/b&gt;" in text
