#include "core/project/propose_for.h"
#include "support/integral.h"
#include "support/samples.h"

// Turned parts whose lines of sight pass close by other lines, or along steep faces, against closed forms.
using namespace prism;
using namespace prism::test;

namespace {

NoProgress quiet;

/// Volume of a profile of (along, radius) turned round its axis: the frustum below each of its lines.
double turned(const std::vector<std::pair<double, double>>& profile) {
    double sum = 0;
    for (size_t i = 0; i < profile.size(); ++i) {
        const auto& [x0, r0] = profile[i];
        const auto& [x1, r1] = profile[(i + 1) % profile.size()];
        sum += kPi * (x1 - x0) * (r0 * r0 + r0 * r1 + r1 * r1) / 3;
    }
    return std::abs(sum);
}

/// What a keyway takes off beside the bore: to a height, over a length.
double keyway(double bore, double half_width, double height, double along) {
    return along * integral(-half_width, half_width,
                            [=](double y) { return height - std::sqrt(bore * bore - y * y); });
}

/// What a keyway with round ends takes off a shaft: down to a height, `length` between the middles of its
/// ends.
double roundEndedKeyway(double shaft, double half_width, double floor, double length) {
    return integral(-half_width, half_width, [=](double y) {
        return (length + 2 * std::sqrt(half_width * half_width - y * y)) *
               (std::sqrt(shaft * shaft - y * y) - floor);
    });
}

void comesOut(const std::string& sheet, double volume, double within = 2e-7) {
    INFO(sheet);
    const Document d = opened(PRISM_TEST_DATA "/parts/" + sheet);
    const auto p = proposeFor(d.model(), quiet);
    REQUIRE(p);
    CHECK(p->clean);
    CHECK(p->build.measure.volume == Approx(volume).epsilon(within));
}

} // namespace

TEST_CASE("a pulley with a recess on both sides and a keyway in its bore comes out") {
    // Between two heights of the keyway lies nearly the tangent of the hub, and where the keyway meets the
    // bore a line farther off sees both.
    comesOut("pulley-with-keyway.dxf", turned({{0, 7},
                                               {0, 18.5},
                                               {13.5, 18.5},
                                               {13.5, 25.5},
                                               {6, 25.5},
                                               {6, 42},
                                               {13.2255621, 42},
                                               {15.5, 35},
                                               {19.5, 35},
                                               {21.7744379, 42},
                                               {29, 42},
                                               {29, 25.5},
                                               {21.5, 25.5},
                                               {21.5, 18.5},
                                               {35, 18.5},
                                               {35, 7}}) -
                                           keyway(7, 2.5, 9, 35));
    // Here a level of the recess runs just beside where the groove is seen at its steepest.
    comesOut("steep-grooved-pulley.dxf", turned({{0, 10},
                                                 {0, 20},
                                                 {15.5, 20},
                                                 {15.5, 38},
                                                 {6.25, 38},
                                                 {6.25, 54},
                                                 {14.8131023, 54},
                                                 {17.25, 46.5},
                                                 {21.25, 46.5},
                                                 {23.6868977, 54},
                                                 {32.25, 54},
                                                 {32.25, 38},
                                                 {23, 38},
                                                 {23, 20},
                                                 {38.5, 20},
                                                 {38.5, 10}}) -
                                             keyway(10, 3, 12.5, 38.5));
}

TEST_CASE("where the dips at the ends of a slot are taken for arcs, the part keeps its sizes all the same") {
    const double body = turned({{0, 0},
                                {0, 11.5},
                                {35.5, 11.5},
                                {35.5, 8},
                                {69.5, 11},
                                {69.5, 17},
                                {106.5, 17},
                                {106.5, 11},
                                {135, 11},
                                {135, 0}});
    // Of the slot what is 23 long and as wide as the end mill, and half a round of it at each end.
    const auto above = [](double y) { return std::sqrt(11.5 * 11.5 - y * y) - 8; };
    const double slot = integral(-2.5, 2.5, [&](double y) { return 23 * above(y); }) +
                        integral(-kPi / 2, kPi / 2, [&](double t) {
                            const double c = 2.5 * std::cos(t);
                            return 2 * c * c * above(2.5 * std::sin(t));
                        });
    const double flat = 19 * (121 * std::acos(9 / 11.0) - 9 * std::sqrt(121 - 81.0));
    comesOut("shaft-with-slot-and-flat.dxf", body - slot - flat);
    const Document d = opened(PRISM_TEST_DATA "/parts/shaft-with-slot-and-flat.dxf");
    const Figure& f = d.model().figure;
    for (size_t i = 0; i < f.now.size(); ++i) CHECK(std::abs(f.now[i] - f.drawn[i]) < 1e-3);
}

TEST_CASE("a shaft sawn flat on two sides between its collar's ends comes out") {
    // From its end, what is left of the collar between the flats is bounded by chords of a level that runs
    // across the rings of other radii.
    const double sawn = 8 * 4 * integral(9.5, 12, [](double z) { return std::sqrt(144 - z * z); });
    comesOut("shaft-with-sawn-flats.dxf", turned({{0, 0},
                                                  {0, 9},
                                                  {1.5, 10.5},
                                                  {32, 10.5},
                                                  {32, 8},
                                                  {95, 8},
                                                  {95, 12},
                                                  {119.5, 12},
                                                  {121, 10.5},
                                                  {121, 0}}) -
                                              sawn);
}

TEST_CASE("a shaft with a slender cone and two keyways comes out") {
    // The cone is seen from its end so steeply that a line of sight just beside meets it much deeper. The
    // ends of the keyways are drawn with six digits.
    comesOut("shaft-with-cone-and-two-keyways.dxf",
             turned({{0, 0},
                     {0, 13.5},
                     {1, 14.5},
                     {36, 14.5},
                     {36, 20.5},
                     {75, 23},
                     {75, 19},
                     {109.5, 19},
                     {109.5, 15},
                     {142, 15},
                     {143, 14},
                     {143, 0}}) -
                 roundEndedKeyway(14.5, 3.5, 11, 21) - roundEndedKeyway(19, 2, 15, 19),
             1e-6);
}

TEST_CASE("a keyway that the modeller loses at first is cut all the same") {
    // Kept within the outline first, whose curves come close to those of the keyway: the first attempt takes
    // nothing off.
    const Document d = opened(PRISM_TEST_DATA "/parts/shaft-with-cone-and-two-keyways.dxf");
    const Figure& f = d.model().figure;
    const AreaSets areas(f);
    const auto p = proposeFor(d.model(), quiet);
    REQUIRE(p);
    std::vector<Step> steps = p->steps;
    Step outline;
    outline.operation = Operation::intersect, outline.view = ViewName{Role::front},
    outline.reach = Reach::through;
    for (const ClosedArea& a : areas.drawn)
        if (a.view == f.viewNamed(outline.view)->view) outline.areas.push_back(a.seed);
    steps.insert(steps.begin() + 1, outline);
    const BuildResult b = build(f, areas, steps, quiet, {}, nullptr, Measuring::coarse);
    REQUIRE(b.ok());
    CHECK(b.measure.volume == Approx(p->build.measure.volume).epsilon(2e-6));
}

TEST_CASE("a flange in section comes out though an edge behind its hub is called seen") {
    const double holes = 6 * kPi * 4.5 * 4.5 * 10.5;
    comesOut("flange-in-section.dxf", turned({{0, 15},
                                              {0, 40},
                                              {9.5, 40},
                                              {9.5, 68},
                                              {17.5, 68},
                                              {20, 65.5},
                                              {20, 32.5},
                                              {64, 32.5},
                                              {64, 15},
                                              {15, 15},
                                              {15, 20},
                                              {7, 20},
                                              {7, 15}}) -
                                          holes);
}

TEST_CASE("holes whose depth no view tells go through, and the others that fit are told") {
    // The section's plane passes between the holes, and the end view shows them all from one side.
    const Document d = opened(PRISM_TEST_DATA "/parts/flange-with-untold-holes.dxf");
    const auto p = proposeFor(d.model(), quiet);
    REQUIRE(p);
    CHECK(p->clean);
    const double body = turned({{0, 16},
                                {0, 39},
                                {10, 39},
                                {10, 65.5},
                                {15, 65.5},
                                {18, 62.5},
                                {18, 34.5},
                                {57, 34.5},
                                {57, 16},
                                {14.5, 16},
                                {14.5, 21.5},
                                {6.5, 21.5},
                                {6.5, 16}});
    CHECK(p->build.measure.volume == Approx(body - 6 * kPi * 5.5 * 5.5 * 8).epsilon(2e-7));
    REQUIRE(p->alternatives.size() == 1);
    CHECK(p->alternatives[0].volume > p->build.measure.volume);
    CHECK(p->alternatives[0].differs.starts_with("2 round cuts to a depth in place of through"));
}

TEST_CASE("a shaft with flats and a cross hole comes out, its chamfer cut off by the flats") {
    // Where a flat cuts the chamfer both end in a hyperbola: a volume integrated at a fixed number of places
    // would be off by more than a hundred thousandth. The bore ends in a drill's point.
    const auto between = [](double r, double half) { // of a disc, between two chords so far from its middle
        return 2 * (half * std::sqrt(r * r - half * half) + r * r * std::asin(half / r));
    };
    const double flats =
                     integral(0, 1, [&](double x) { return between(14.5 + x, 13); }) + 22 * between(15.5, 13),
                 rest =
                     turned({{23, 0}, {23, 15.5}, {58, 15.5}, {58, 11.5}, {83, 11.5}, {84, 10.5}, {84, 0}}),
                 across = integral(
                     0, kPi, [&](double t) { return between(15.5, 5 * std::sin(t)) * 5 * std::sin(t); }),
                 bore = kPi * 3.5 * 3.5 * (14 + 3.5 / std::tan(59 * kPi / 180) / 3);
    comesOut("shaft-with-chamfered-flats.dxf", flats + rest - across - bore);
}
