"""Spectra as XML of IES TM-27-14, written and read; the round trip is exact.

The element names and the list of quantities are from memory of the standard and agree with the reference library's
reader (a test holds it).
"""

from collections.abc import Sequence
from xml.etree.ElementTree import Element, SubElement, indent, tostring

import numpy as np

from even_beam.formats.errors import FormatError
from even_beam.formats.spectrum_file import NamedSpectrum

NAMESPACE = "iestm2714"
QUANTITIES = (
    "flux", "absorptance", "transmittance", "reflectance", "intensity", "irradiance", "radiance", "exitance",
    "R-Factor", "T-Factor", "relative", "other",
)  # fmt: skip
_HEADER = (
    "Manufacturer",
    "CatalogNumber",
    "Description",
    "DocumentCreator",
    "UniqueIdentifier",
    "DocumentCreationDate",
    "Comments",
)
MAX_POINTS = 100_000


def read(data: bytes, name: str) -> list[NamedSpectrum]:
    """The spectrum of a TM-27 file. Raises `FormatError`, also for documents with entities or a document type."""
    from defusedxml import DefusedXmlException
    from defusedxml.ElementTree import ParseError, fromstring

    try:
        root = fromstring(data, forbid_dtd=True)
    except DefusedXmlException as error:
        raise FormatError(
            f"{name}: the XML declares a document type or entities, which TM-27 has no use for; it was not read"
        ) from error
    except (ParseError, ValueError, LookupError) as error:
        raise FormatError(f"{name}: not well-formed XML ({error})") from error
    if _local(root.tag) != "IESTM2714":
        raise FormatError(f"{name}: the XML is <{_local(root.tag)}>, not <IESTM2714>")
    distribution = _child(root, "SpectralDistribution")
    if distribution is None:
        raise FormatError(f"{name}: there is no <SpectralDistribution>")
    quantity = _text(distribution, "SpectralQuantity")
    if quantity not in QUANTITIES:
        raise FormatError(f"{name}: <SpectralQuantity> is “{quantity}”; the standard has {', '.join(QUANTITIES)}")
    wavelength, values = _data(distribution, name)
    header = _child(root, "Header")
    title = (_text(header, "Description") if header is not None else "") or name
    understood = f"IES TM-27, {quantity}"
    return [NamedSpectrum(title, wavelength, values, quantity == "irradiance", understood)]


def _local(tag: object) -> str:
    return str(tag).rpartition("}")[2]


def _child(element: Element, name: str) -> Element | None:
    return next((child for child in element if _local(child.tag) == name), None)


def _text(element: Element, name: str) -> str:
    child = _child(element, name)
    return (child.text or "").strip() if child is not None else ""


def _data(distribution: Element, name: str) -> tuple[np.ndarray, np.ndarray]:
    points = [child for child in distribution if _local(child.tag) == "SpectralData"]
    if not 2 <= len(points) <= MAX_POINTS:
        raise FormatError(f"{name}: {len(points)} <SpectralData> elements; expected 2 to {MAX_POINTS}")
    try:
        wavelength = np.array([float(point.attrib["wavelength"]) for point in points])
        values = np.array([float(point.text or "") for point in points])
    except (KeyError, ValueError) as error:
        raise FormatError(f"{name}: a <SpectralData> without a wavelength or without a number ({error})") from error
    if not np.all(np.diff(wavelength) > 0.0):
        raise FormatError(f"{name}: the wavelengths must increase")
    return wavelength, values


def write(spectra: Sequence[NamedSpectrum], *, created: str = "", creator: str = "Even Beam") -> str:
    """The text of a TM-27 file; the standard holds one spectrum a file. Raises `FormatError` for more or fewer."""
    if len(spectra) != 1:
        raise FormatError(f"TM-27 holds one spectrum a file, not {len(spectra)}: write each into a file of its own")
    spectrum = spectra[0]
    root = Element("IESTM2714", {"xmlns": NAMESPACE, "version": "1.0"})
    header = SubElement(root, "Header")
    known = {"Description": spectrum.name, "DocumentCreator": creator, "DocumentCreationDate": created}
    for name in _HEADER:
        SubElement(header, name).text = known.get(name, "")
    distribution = SubElement(root, "SpectralDistribution")
    SubElement(distribution, "SpectralQuantity").text = "irradiance" if spectrum.absolute else "relative"
    SubElement(distribution, "ReflectionGeometry").text = "other"
    SubElement(distribution, "TransmissionGeometry").text = "other"
    for wavelength, value in zip(spectrum.wavelength_nm.tolist(), spectrum.values.tolist(), strict=True):
        SubElement(distribution, "SpectralData", {"wavelength": repr(wavelength)}).text = repr(value)
    indent(root)
    return '<?xml version="1.0" encoding="UTF-8"?>\n' + tostring(root, encoding="unicode") + "\n"
