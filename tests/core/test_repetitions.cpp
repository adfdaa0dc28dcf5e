#include "core/building/repeats.h"
#include "support/step_block.h"

#include <gp_Pnt.hxx>
#include <gp_Trsf.hxx>

// Where copies of a step stand, by the numbers it was given.
using namespace prism;
using namespace prism::test;

namespace {

const Figure& figure() {
    static const Document d = documentOf(block());
    return d.model().figure;
}

/// Where copies put a place in space.
std::vector<Vec3> copiesOf(const Repetition& r, Vec3 place) {
    Step s;
    s.kind = StepKind::pattern, s.repeat = r;
    const auto all = building::copiesOf(figure(), s);
    INFO((all ? std::string() : all.error().message));
    REQUIRE(all);
    std::vector<Vec3> found;
    for (const gp_Trsf& t : *all) {
        const gp_Pnt p = gp_Pnt(place.x, place.y, place.z).Transformed(t);
        found.push_back({p.X(), p.Y(), p.Z()});
    }
    return found;
}

void checkPlaces(const std::vector<Vec3>& found, const std::vector<Vec3>& wanted) {
    REQUIRE(found.size() == wanted.size());
    for (size_t i = 0; i < found.size(); ++i) {
        INFO("copy " << i + 2 << " at " << found[i].x << ", " << found[i].y << ", " << found[i].z);
        const Vec3 off = found[i] - wanted[i];
        CHECK(std::sqrt(dot(off, off)) < 1e-9);
    }
}

} // namespace

TEST_CASE("copies in a line and on a grid stand at their pitches, as many as counted, none twice") {
    Repetition line;
    line.axis = Axis::z, line.count = 4, line.pitch = -7.5;
    line.second_count = 3, line.second_pitch = 11.0; // of a grid: a line has no rows
    checkPlaces(copiesOf(line, {1, 2, 3}), {{1, 2, -4.5}, {1, 2, -12}, {1, 2, -19.5}});
    Repetition grid;
    grid.kind = Repetition::Kind::grid;
    grid.axis = Axis::y, grid.count = 3, grid.pitch = 10.0;
    grid.second_axis = Axis::x, grid.second_count = 2, grid.second_pitch = -4.0;
    checkPlaces(copiesOf(grid, {0, 0, 5}), {{0, 10, 5}, {0, 20, 5}, {-4, 0, 5}, {-4, 10, 5}, {-4, 20, 5}});
    grid.left_out = {3, 5}; // by number: the original is 1
    checkPlaces(copiesOf(grid, {0, 0, 5}), {{0, 10, 5}, {-4, 0, 5}, {-4, 20, 5}});
}
