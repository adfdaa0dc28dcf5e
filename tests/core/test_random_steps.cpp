#include "core/project/project_file.h"
#include "support/samples.h"

#include <catch2/catch.hpp>
#include <nlohmann/json.hpp>
#include <random>

// Random steps of all kinds on the sheets of the demo: whatever they are, nothing crashes, a solid that is
// said to be sound is sound, and undo brings back the same document.
using namespace prism;
using namespace prism::test;

namespace {

NoProgress quiet;

/// Makes steps at random, most of them possible, some not.
class Dice {
  public:
    Dice(unsigned seed, const Model& m) : random_(seed), m_(m) {}

    Step step() {
        Step s;
        s.kind = static_cast<StepKind>(upTo(static_cast<int>(kLastStepKind)));
        s.operation = static_cast<Operation>(upTo(2));
        const FigureView& v = view();
        s.view = v.name;
        s.name = letter(2);
        for (int i = upTo(2); i >= 0; --i) s.areas.push_back(area(s.view));
        for (int i = upTo(2); i >= 0; --i) s.places.push_back(place(v));
        if (s.kind == StepKind::tilt) s.places.resize(1);
        s.reach = static_cast<Reach>(upTo(static_cast<int>(kLastReach)));
        s.from = bound(), s.to = bound();
        s.below = length();
        if (upTo(9) == 0) s.tops.assign(s.areas.size(), bound());
        if (upTo(5) == 0) s.draft = number(-0.3, 0.3);
        s.axis = mark(), s.axis_upright = upTo(1), s.axis_along_line = upTo(3) == 0;
        s.angle = upTo(1) ? 2 * kPi : number(0.1, 6);
        s.thickness = length(), s.side = place(v), s.size = length() * 0.2;
        if (upTo(3) == 0) s.second_size = length() * 0.2;
        s.hole.kind = static_cast<HoleKind>(upTo(4));
        if (upTo(1)) s.hole.diameter = length() * 0.3;
        if (upTo(1)) s.hole.depth = length();
        s.hole.wide = length() * 0.5, s.hole.wide_depth = length() * 0.3, s.hole.taper = 0.1,
        s.hole.from_far = upTo(1);
        s.edges.which = static_cast<EdgeChoice::Which>(upTo(3));
        for (int i = upTo(2); i > 0; --i) s.edges.picks.push_back({space(), {}});
        if (upTo(2) == 0) s.faces.push_back({space(), {}});
        s.corners = {space(), space(), space()}, s.taken = space();
        s.outward = upTo(3) == 0, s.inner = upTo(3) == 0, s.across = static_cast<Axis>(upTo(2));
        s.repeat.kind = static_cast<Repetition::Kind>(upTo(3));
        s.repeat.axis = static_cast<Axis>(upTo(2)), s.repeat.count = 1 + upTo(4),
        s.repeat.second_count = 1 + upTo(2);
        s.repeat.pitch = number(-30, 30), s.repeat.second_pitch = number(-30, 30), s.repeat.at = mark();
        if (upTo(1)) s.of.push_back(letter(1));
        return s;
    }
    int upTo(int most) { return std::uniform_int_distribution<int>(0, most)(random_); }

  private:
    double number(double lo, double hi) { return std::uniform_real_distribution<double>(lo, hi)(random_); }
    std::string letter(int most) { return std::string(1, upTo(most) ? 'a' : 'b'); }
    double length() { return number(0.1, 0.5) * m_.figure.size; }
    const FigureView& view() {
        return m_.figure.views[static_cast<size_t>(upTo(static_cast<int>(m_.figure.views.size()) - 1))];
    }
    Vec2 place(const FigureView& v) {
        if (upTo(3) && !m_.figure.curves.empty()) { // on a line, mostly
            for (int tries = 0; tries < 20; ++tries) {
                const FigureCurve& c =
                    m_.figure
                        .curves[static_cast<size_t>(upTo(static_cast<int>(m_.figure.curves.size()) - 1))];
                if (c.view == v.view) return pointAt(c.drawn, 0.5);
            }
        }
        return {number(v.box.lo.x, v.box.hi.x), number(v.box.lo.y, v.box.hi.y)};
    }
    Vec2 area(const ViewName& name) {
        for (int tries = 0; tries < 20; ++tries) {
            const ClosedArea& a =
                m_.areas.drawn[static_cast<size_t>(upTo(static_cast<int>(m_.areas.drawn.size()) - 1))];
            if (m_.figure.viewById(a.view)->name == name) return a.seed;
        }
        return {};
    }
    MarkRef mark() {
        const FigureView& v = view();
        return {v.name, place(v)};
    }
    Vec3 space() {
        return {number(0, m_.figure.size), number(0, 0.6 * m_.figure.size), number(0, 0.8 * m_.figure.size)};
    }
    Bound bound() {
        Bound b;
        b.kind = static_cast<Bound::Kind>(upTo(9) ? upTo(3) : 4);
        b.mark = mark(), b.value = length(), b.place = space();
        if (b.kind == Bound::Kind::level) b.level = letter(1); // there is none
        return b;
    }

    std::mt19937 random_;
    const Model& m_;
};

/// Builds lists of random steps one upon another; how many of the steps were made.
int tryLists(const Document& start, unsigned seed, int lists, int longest) {
    Dice dice(seed, start.model());
    int made = 0;
    for (int i = 0; i < lists; ++i) {
        std::vector<Step> steps;
        for (int k = 1 + dice.upTo(longest - 1); k > 0; --k) steps.push_back(dice.step());
        steps.front().kind = StepKind::extrude, steps.front().operation = Operation::add;
        INFO("seed " << seed << ", list " << i << ": " << toJson(steps).dump());
        const Model& m = start.model();
        const BuildResult b = build(m.figure, m.areas, steps, quiet);
        REQUIRE(b.steps.size() == steps.size());
        for (const StepReport& r : b.steps) {
            CHECK((r.ok || !r.message.empty())); // what is not made says why
            made += r.ok;
        }
        if (b.ok()) {
            CHECK(b.measure.volume > 0);
            CHECK(measured(b.shape).valid);
            CHECK(b.faces.size() == static_cast<size_t>(b.measure.faces));
        }
        const auto again = readBuildList(toJson(steps).dump());
        INFO((again ? "" : again.error().message));
        REQUIRE(again);
        REQUIRE(again->steps.size() == steps.size());
    }
    return made;
}

} // namespace

TEST_CASE("lists of random steps never crash, and what cannot be made says why") {
    CHECK(tryLists(opened(demo("roller-bracket.dxf")), 1, 12, 4) > 5);
}

TEST_CASE("many lists of random steps on all demo parts", "[slow]") {
    for (const char* part : {"roller-bracket.dxf", "worm-housing-cover.dxf", "weight-pulley.dxf"})
        CHECK(tryLists(opened(demo(part)), 7, 100, 5) > 50);
}

TEST_CASE("steps taken over from an earlier build give the same solid as building all of them") {
    const Document start = opened(demo("roller-bracket.dxf"));
    const Model& m = start.model();
    for (unsigned seed = 1; seed <= 10; ++seed) {
        Dice dice(seed, m);
        std::vector<Step> steps{dice.step()};
        steps.front().kind = StepKind::extrude, steps.front().operation = Operation::add;
        BuildResult before = build(m.figure, m.areas, steps, quiet);
        for (int round = 0; round < 6; ++round) {
            // One more, another one in the place of the last, one in the middle, or one less.
            const int change = dice.upTo(3);
            if (change == 0 || steps.size() < 2)
                steps.push_back(dice.step());
            else if (change == 1)
                steps.back() = dice.step();
            else if (change == 2)
                steps.insert(steps.begin() + 1, dice.step());
            else
                steps.pop_back();
            INFO("seed " << seed << ", round " << round << ": " << toJson(steps).dump());
            const BuildResult taken = build(m.figure, m.areas, steps, quiet, {}, &before);
            const BuildResult anew = build(m.figure, m.areas, steps, quiet);
            REQUIRE(taken.steps.size() == anew.steps.size());
            for (size_t i = 0; i < taken.steps.size(); ++i) CHECK(taken.steps[i].ok == anew.steps[i].ok);
            CHECK(taken.ok() == anew.ok());
            if (taken.ok() && anew.ok())
                CHECK(taken.measure.volume == Approx(anew.measure.volume).epsilon(1e-6));
            before = taken;
        }
    }
}

TEST_CASE("random steps are undone to the identical document") {
    // A document forgets the models it has left far behind, so what the dice look at is kept beside it.
    const Document start = opened(demo("roller-bracket.dxf"));
    Dice dice(3, start.model());
    Document d = start;
    const std::string before = toJson(d.choices()).dump();
    std::vector<std::string> states{before};
    for (int i = 0; i < 8; ++i) {
        Choices c = d.choices();
        c.steps.push_back(dice.step());
        if (i == 0) c.steps.back().kind = StepKind::extrude, c.steps.back().operation = Operation::add;
        REQUIRE(d.apply("Step", c, quiet));
        states.push_back(toJson(d.choices()).dump());
    }
    for (int i = 7; i >= 0; --i) {
        REQUIRE(d.undo(quiet));
        CHECK(toJson(d.choices()).dump() == states[static_cast<size_t>(i)]);
    }
}
