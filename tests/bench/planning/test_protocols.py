"""What protocols read: each of their terms, and none twice."""

from even_beam.bench.planning.protocols import expand, shipped
from even_beam.bench.records import Terms


def test_a_beam_grid_reads_the_axis_once_and_every_angle_in_each_plane():
    grid = next(one for one in shipped() if one.name == "beam grid")
    places = [(terms.angle_deg, terms.turn_deg) for terms in expand(grid, Terms(distance_m=3.0))]
    assert places.count((0.0, 0.0)) == 1
    assert (0.0, 90.0) not in places
    assert len(places) == len(set(places)) == 1 + 2 * 8
    assert {turn for angle, turn in places if angle} == {0.0, 90.0}
