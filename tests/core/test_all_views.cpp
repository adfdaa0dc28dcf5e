#include "support/boxed_part.h"
#include "support/cover.h"
#include "support/samples.h"

#include "core/figure/projectors.h"
#include "core/marking/dimensioning.h"
#include "core/project/proof_findings.h"
#include "core/project/solved_sheet.h"

// Sections, auxiliary views and close-ups as parts of the figure: they drive, are built from and are proved.
using namespace prism;
using namespace prism::test;

namespace {

NoProgress quiet;

Document builtCover() {
    Document d = opened(demo("worm-housing-cover.dxf"));
    Choices c = d.choices();
    c.steps = coverSteps(d.model());
    REQUIRE(d.apply("Build", c, quiet));
    return d;
}

/// The cover's numbers in the order in which the sheet states them.
const std::vector<double Cover::*> kStated{
    &Cover::pad_from,   &Cover::oil_from,  &Cover::pad_length,   &Cover::pad_y,         &Cover::oil_y,
    &Cover::pad_width,  &Cover::oil,       &Cover::pad_height,   &Cover::oil_depth,     &Cover::width,
    &Cover::bore_x,     &Cover::bore_z,    &Cover::height,       &Cover::slope_z,       &Cover::bore,
    &Cover::groove_x,   &Cover::slope_x,   &Cover::pocket_from,  &Cover::pocket_length, &Cover::depth,
    &Cover::wall_front, &Cover::wall_back, &Cover::groove_width, &Cover::groove_depth,  &Cover::pocket_floor};

void checkProof(const Model& m) {
    REQUIRE(m.proof);
    for (const ViewProof& v : m.proof->views) {
        for (const ProofPiece& p : v.pieces) {
            if (p.state == LineState::matched) continue;
            const Vec2 a = startOf(p.shape), b = endOf(p.shape);
            INFO(nameOf(v.name) << " " << nameOf(p.state) << " " << a.x << "," << a.y << " " << b.x << ","
                                << b.y << (p.hidden ? " hidden" : ""));
            CHECK(p.state == LineState::matched);
        }
        CHECK(v.areas_off.empty());
    }
    CHECK(m.proof->total() == 5);
    CHECK(m.proof->proved());
}

/// A size of a block, and the dimension that a view states it with.
struct Stated {
    double BoxSizes::*size;
    AddedDimension dimension;
};

/// A block with an auxiliary view and two sections, dimensioned in all kinds of views.
struct Block {
    BoxedPart part;
    std::vector<Stated> stated;
    std::shared_ptr<const Drawing> drawing;
    CleanSheet sheet;
    ViewSet set;
    Figure figure;
    Ledger ledger;

    Block(unsigned seed, const BoxLayout& layout) : part(boxedPart(seed, layout)) {
        const BoxSizes& s = part.sizes;
        const Vec3 o = part.lo;
        const double y1 = o.y + s.front_depth, y2 = y1 + s.back_depth;
        const auto& front = part.principal.at(Role::front);
        const auto state = [&](double BoxSizes::*size, const std::vector<KnownLine>& lines, Vec3 a, Vec3 b,
                               bool level) {
            const Vec2 p = onSheet(lines, a), q = onSheet(lines, b);
            const Vec2 beside = level ? Vec2{(p.x + q.x) / 2, std::max(p.y, q.y) + 15}
                                      : Vec2{std::max(p.x, q.x) + 15, (p.y + q.y) / 2};
            stated.push_back({size, distanceDimension(p, q, beside, false)});
        };
        state(&BoxSizes::width, front, o, {o.x + s.width, o.y, o.z}, true);
        state(&BoxSizes::height, front, o, {o.x, o.y, o.z + s.height}, false);
        state(&BoxSizes::slope_x, front, {o.x, o.y, o.z + s.height}, {o.x + s.slope_x, o.y, o.z + s.height},
              true);
        state(&BoxSizes::slope_z, front, {o.x + s.width, o.y, o.z}, {o.x + s.width, o.y, o.z + s.slope_z},
              false);
        // The step in section A-A, the lower part's depth in B-B, the higher one's in the auxiliary view.
        state(&BoxSizes::step, part.section_x, {part.cut_x, y2, o.z}, {part.cut_x, y2, o.z + s.step}, false);
        state(&BoxSizes::back_depth, part.section_z, {o.x, y1, part.cut_z}, {o.x, y2, part.cut_z},
              layout.moved);
        const Vec3 low{o.x + s.width, o.y, o.z + s.slope_z};
        const Vec2 p = onSheet(part.auxiliary, low), q = onSheet(part.auxiliary, {low.x, y1, low.z});
        stated.push_back({&BoxSizes::front_depth, distanceDimension(p, q, q, true)});
        MarkUp marks;
        for (const Stated& d : stated) marks.dimensions.push_back(d.dimension);
        drawing = markedUp(std::make_shared<const Drawing>(part.drawing), marks);
        NoProgress quiet;
        sheet = prism::clean(drawing, {}, {}, quiet);
        set = findViews(*sheet.drawing, sheet, {}, quiet);
        figure = buildFigure(*sheet.drawing, sheet, set);
        ledger = makeLedger(*sheet.drawing, set, figure);
    }

    double BoxSizes::*sizeOf(const LedgerEntry& e) const { return stated[e.dimension].size; }
    /// The block with another number.
    Block with(const LedgerEntry& e, double value) const {
        Block r = *this;
        NumberChoices n;
        n[e.name].value = value;
        const DriveOutcome o = drive(r.figure, r.ledger, n);
        INFO(o.message);
        REQUIRE(o.ok());
        return r;
    }
    /// The lower block through the whole depth, and what is above it as deep as the high part.
    std::vector<Step> steps() const {
        const BoxSizes& s = part.sizes;
        Step low, high;
        low.view = high.view = Role::front;
        low.areas = {{s.width / 2, s.step / 2}};
        high.areas = {{s.slope_x / 2, 0.5 * (s.step + s.height)}};
        high.to = {Bound::Kind::mark, {Role::top, {s.width / 2, s.front_depth}}, 0};
        return {low, high};
    }

  private:
    /// Where a view shows a corner of the part.
    Vec2 onSheet(const std::vector<KnownLine>& lines, Vec3 corner) const {
        for (const KnownLine& l : lines) {
            const Segment& drawn = std::get<Segment>(part.drawing.entities[l.entity].curves[0]);
            for (auto [at, place] : {std::pair{drawn.a, l.a}, {drawn.b, l.b}})
                if (std::abs(place.x - corner.x) + std::abs(place.y - corner.y) +
                        std::abs(place.z - corner.z) <
                    1e-9)
                    return at;
        }
        FAIL("the view does not show that corner");
        return {};
    }
};

/// The farthest that any end of a line is from the nearest corner that the view should show of the part with
/// the changed size. Lines that were drawn over each other have been made into one, so ends are compared as
/// places.
double farthestOff(const Block& b, const BoxedPart& truth) {
    double worst = 0;
    const auto compare = [&](const std::vector<KnownLine>& lines) {
        std::set<int> mine;
        for (const KnownLine& l : lines) mine.insert(l.entity);
        for (size_t i = 0; i < b.figure.curves.size(); ++i) {
            const FigureCurve& c = b.figure.curves[i];
            if (!mine.contains(c.entity)) continue;
            const ViewFrame frame = frameOf(b.figure, *b.figure.viewById(c.view), b.figure.now);
            const Segment now = std::get<Segment>(b.figure.curve(static_cast<int>(i)));
            for (Vec2 end : {now.a, now.b}) {
                double nearest = std::numeric_limits<double>::infinity();
                for (const KnownLine& l : lines) // the model begins at the part's low corner
                    for (Vec3 p : {l.a, l.b})
                        nearest = std::min(nearest, distance(end, frame(p + -1.0 * truth.lo)));
                worst = std::max(worst, nearest);
            }
        }
    };
    for (const auto& [role, lines] : truth.principal) compare(lines);
    compare(truth.auxiliary), compare(truth.section_x), compare(truth.section_z);
    return worst;
}

/// 32 random blocks: in both angles, every other one cut along a stepped plane, every fourth with sections
/// that lie away from their place.
template <class Check> void forEachBlock(Check check) {
    for (unsigned seed = 1; seed <= 16; ++seed)
        for (Convention convention : {Convention::first, Convention::third}) {
            const BoxLayout layout{convention, seed % 4 == 0, seed % 2 == 1};
            INFO("seed " << seed << ", " << nameOf(convention) << " angle");
            check(seed, layout);
        }
}

void checkSolid(const Block& b, const BoxedPart& truth) {
    const BuildResult built = build(b.figure, b.steps(), quiet);
    REQUIRE(built.ok());
    CHECK(built.measure.volume == Approx(truth.volume).epsilon(1e-9));
    const auto proof = prove(b.figure, b.set, built.shape, quiet);
    REQUIRE(proof);
    CHECK(proof->compared() == 9);
    for (const ViewProof& v : proof->views) {
        INFO(nameOf(v.name));
        CHECK(v.missing == 0);
        CHECK(v.extra == 0);
        CHECK(v.areas_off.empty());
        CHECK(v.areas == (v.name.role == Role::section ? 1 + (v.name.letter == "B") : 0));
    }
    CHECK(proof->proved());
}

} // namespace

TEST_CASE("every size of a block moves all its views to where the changed block has them") {
    forEachBlock([](unsigned seed, const BoxLayout& layout) {
        const Block b(seed, layout);
        REQUIRE(b.figure.views.size() == 9);
        REQUIRE(b.ledger.entries.size() == b.stated.size());
        CHECK(farthestOff(b, b.part) < 1e-9 * b.figure.size);
        for (const LedgerEntry& e : b.ledger.entries) {
            INFO(e.name << " in the " << nameOf(b.figure.viewById(e.view)->name) << " view: " << e.why);
            REQUIRE(e.drawn == Approx(b.part.sizes.*b.sizeOf(e)));
            REQUIRE(e.state == EntryState::drives);
            const BoxedPart truth = boxedPart(seed, layout, std::pair{b.sizeOf(e), 1.03 * e.drawn});
            CHECK(farthestOff(b, truth) > 0.2);
            const Block driven = b.with(e, 1.03 * e.drawn);
            CHECK(farthestOff(driven, truth) < 1e-9 * driven.figure.size);
        }
    });
}

TEST_CASE("the solid of a block proves all its views, whatever size is changed", "[slow]") {
    forEachBlock([](unsigned seed, const BoxLayout& layout) {
        const Block b(seed, layout);
        REQUIRE(b.ledger.entries.size() == b.stated.size());
        checkSolid(b, b.part);
        for (const LedgerEntry& e : b.ledger.entries) {
            INFO(e.name << " is changed");
            checkSolid(b.with(e, 1.03 * e.drawn),
                       boxedPart(seed, layout, std::pair{b.sizeOf(e), 1.03 * e.drawn}));
        }
    });
}

TEST_CASE("the cover is built from all its views and every one of them proves it") {
    const Document d = builtCover();
    const Model& m = d.model();
    for (const StepReport& s : m.build.steps) {
        INFO(s.name << ": " << s.message);
        CHECK(s.ok);
    }
    CHECK(m.build.measure.volume == Approx(Cover().volume()).epsilon(1e-6));
    checkProof(m);
    const auto section = std::ranges::find(m.proof->views, ViewName(Role::section, "A"), &ViewProof::name);
    REQUIRE(section != m.proof->views.end());
    CHECK(section->areas ==
          6); // the floor with both walls up to the bore, the walls above it, bore and pocket
}

TEST_CASE("whatever step of the cover is left out, the views that show it say so") {
    const Document whole = builtCover();
    const auto& steps = whole.choices().steps;
    std::map<std::string, int> noticed;
    for (size_t k = 1; k < steps.size(); ++k) {
        INFO(steps[k].name);
        Document d = whole;
        Choices c = d.choices();
        c.steps.erase(c.steps.begin() + static_cast<long>(k));
        REQUIRE(d.apply("Leave out", c, quiet));
        if (!d.model().build.ok()) continue; // others build on it
        REQUIRE(d.model().proof);
        CHECK_FALSE(d.model().proof->clean());
        for (const ViewProof& v : d.model().proof->views) noticed[nameOf(v.name)] += v.missing + v.extra > 0;
    }
    // The detail shows nothing but the rim of the first step, which all others build on.
    for (const ViewProof& v : whole.model().proof->views) {
        INFO(nameOf(v.name));
        CHECK((noticed[nameOf(v.name)] > 0) == (v.name.role != Role::detail));
    }
}

TEST_CASE("every number of every view of the cover drives it, and every view follows", "[slow]") {
    Document d = builtCover();
    REQUIRE(d.model().ledger.entries.size() == kStated.size());
    for (size_t i = 0; i < kStated.size(); ++i) {
        const LedgerEntry e = d.model().ledger.entries[i];
        INFO(e.name << " of the " << nameOf(d.model().figure.viewById(e.view)->name) << " view, " << e.text);
        Cover changed;
        REQUIRE(e.drawn == Approx(changed.*kStated[i]));
        changed.*kStated[i] *= 1.03;
        Choices c = d.choices();
        c.numbers[e.name].value = changed.*kStated[i];
        Document driven = d;
        REQUIRE(driven.apply("Change", c, quiet));
        CHECK(driven.model().build.measure.volume == Approx(changed.volume()).epsilon(1e-6));
        checkProof(driven.model());
    }
}

TEST_CASE("hatching is held where the numbers put it, though they change by much") {
    const Document d = builtCover();
    // What was the middle of the front wall, and of the floor, is empty then.
    for (const auto& [what, to] : {std::pair{&Cover::wall_front, 3.0}, {&Cover::pocket_floor, 8.0}}) {
        CAPTURE(to);
        const auto at = std::ranges::find(kStated, what) - kStated.begin();
        Cover changed;
        changed.*what = to;
        Choices c = d.choices();
        c.numbers[d.model().ledger.entries[static_cast<size_t>(at)].name].value = to;
        Document driven = d;
        REQUIRE(driven.apply("Change", c, quiet));
        CHECK(driven.model().build.measure.volume == Approx(changed.volume()).epsilon(1e-6));
        checkProof(driven.model());
        CHECK(driven.model().proof->areas_off == 0);
    }
}

TEST_CASE("hatching that does not fit the solid is told, with its area") {
    const Document d = builtCover();
    Model m = d.model();
    CHECK(findingsOfProof(m, quiet).empty());
    // The back wall above the bore, 10 by 18, is no longer hatched: its loop leaves the hatching's border.
    REQUIRE(m.figure.hatching.size() == 1);
    std::erase_if(m.figure.hatching[0].curves, [](const Curve& c) {
        const Vec2 p = pointAt(c, 0.5);
        return p.x > 35 && p.y > 41.9;
    });
    auto p = prove(m.figure, m.views, m.build.shape, quiet);
    REQUIRE(p);
    CHECK(p->areas_off == 1);
    CHECK_FALSE(p->clean());
    m.proof = *p;
    std::vector<Finding> found = findingsOfProof(m, quiet);
    REQUIRE(found.size() == 1);
    CHECK(found[0].kind == "hatching_suspect");
    CHECK(found[0].numbers.at("area") == Approx(180));
    CHECK(found[0].message.find("is not hatched") != std::string::npos);
    CHECK(inWords(*p).find("1 area of a section") != std::string::npos);
    // The pocket, 30 by 40 less the walls beside it, is hatched although it is empty.
    m.figure.hatching = d.model().figure.hatching;
    m.figure.hatching.push_back({m.figure.hatching[0].view,
                                 0,
                                 true,
                                 {Segment{{10, 20}, {40, 20}}, Segment{{40, 20}, {40, 60}},
                                  Segment{{40, 60}, {10, 60}}, Segment{{10, 60}, {10, 20}}}});
    p = prove(m.figure, m.views, m.build.shape, quiet);
    REQUIRE(p);
    m.proof = *p;
    found = findingsOfProof(m, quiet);
    REQUIRE(found.size() == 1);
    CHECK(found[0].numbers.at("area") == Approx(1200));
    CHECK(found[0].message.find("is hatched, but") != std::string::npos);
}

TEST_CASE("hatching drawn in single lines says what is cut as well as its border does") {
    const Document d = builtCover();
    Model m = d.model();
    m.figure.hatching.clear();
    const int section = m.figure.viewNamed(ViewName(Role::section, "A"))->view;
    for (const ClosedArea& a : m.areas.drawn)
        if (a.view == section && isHatched(d.model().figure, a))
            for (const Segment& s : hatchLines(a, 2.5)) m.figure.hatching.push_back({section, 0, false, {s}});
    CHECK(m.figure.hatching.size() > 20);
    const auto p = prove(m.figure, m.views, m.build.shape, quiet);
    REQUIRE(p);
    CHECK(p->proved());
    m.figure.hatching.resize(10); // most of it is gone
    CHECK(prove(m.figure, m.views, m.build.shape, quiet)->areas_off > 0);
}

TEST_CASE("hatch lines fill an area from border to border at one distance, and leave its holes") {
    const Document d = builtCover();
    for (const ClosedArea& a : d.model().areas.drawn) {
        double length = 0;
        for (const Segment& s : hatchLines(a, 0.05)) {
            length += distance(s.a, s.b);
            CHECK(std::abs((s.b.x - s.a.x) - (s.b.y - s.a.y)) < 1e-9);
        }
        CHECK(length * 0.05 == Approx(a.area).epsilon(0.02));
    }
}

TEST_CASE("the sheet and its hatching follow the numbers") {
    Document d = builtCover();
    const SolvedSheet before = solvedSheet(d.model());
    const int section = d.model().figure.viewNamed(ViewName(Role::section, "A"))->view;
    const auto lengthOfHatching = [&](const SolvedSheet& s) {
        double sum = 0;
        for (const Segment& l : s.hatching.at(section)) sum += distance(l.a, l.b);
        return sum;
    };
    // Floor and walls, without the bore: 50 * 60 - 30 * 40 - 2 * 10 * 16, hatched every 3 mm.
    CHECK(lengthOfHatching(before) * 3 == Approx(1480).epsilon(0.05));
    Choices c = d.choices();
    for (const LedgerEntry& e : d.model().ledger.entries)
        if (e.drawn == Approx(20) && d.model().figure.viewById(e.view)->shows == Shows::cut)
            c.numbers[e.name].value = 22; // the pocket's floor
    REQUIRE(c.numbers.size() == 1);
    REQUIRE(d.apply("Change", c, quiet));
    CHECK(lengthOfHatching(solvedSheet(d.model())) * 3 == Approx(1480 + 2 * 30).epsilon(0.05));
    // Its text says so; those of the numbers that nobody changed are as they were.
    const SolvedSheet after = solvedSheet(d.model());
    REQUIRE(after.dimensions.size() == before.dimensions.size());
    int told = 0;
    for (const LedgerEntry& e : d.model().ledger.entries) {
        const auto& text = after.dimensions[static_cast<size_t>(e.dimension)].text;
        if (c.numbers.contains(e.name)) {
            CHECK(text.find("22") != std::string::npos);
            ++told;
        } else
            CHECK(text == before.dimensions[static_cast<size_t>(e.dimension)].text);
    }
    CHECK(told == 1);
    // The auxiliary view has not moved; when the slope changes it turns on the sheet.
    const auto& entities = d.model().drawing->entities;
    const auto direction_of = [&](const SolvedSheet& s) {
        std::optional<double> r;
        for (const FigureCurve& f : d.model().figure.curves)
            if (d.model().figure.viewById(f.view)->name == ViewName(Role::auxiliary) && !r)
                if (const auto* line = std::get_if<Segment>(&s.curves[entities[f.entity].id][f.index]))
                    r = std::remainder(angleOf(line->b - line->a), kPi / 2);
        return r.value();
    };
    const double drawn = direction_of(solvedSheet(d.model()));
    for (const LedgerEntry& e : d.model().ledger.entries)
        if (e.drawn == Approx(60) && e.axis == Axis::x && e.along_axis)
            c.numbers[e.name].value = 50; // where the slope begins
    REQUIRE(c.numbers.size() == 2);
    REQUIRE(d.apply("Change", c, quiet));
    CHECK(d.model().proof->proved());
    // From 3 in 4 to 3 in 5.
    CHECK(std::abs(direction_of(solvedSheet(d.model())) - drawn) == Approx(std::atan(0.75) - std::atan(0.6)));
}

TEST_CASE("projectors join what the views show of one place, askew ones too") {
    const Document d = opened(demo("worm-housing-cover.dxf"));
    const Figure& f = d.model().figure;
    std::set<std::string> reached;
    for (size_t i = 0; i < f.curves.size(); ++i)
        for (const Projector& p : projectorsOf(f, static_cast<int>(i))) {
            CHECK(f.viewById(f.curves[i].view)->square);
            CHECK(p.shown.size() >= 2);
            for (const auto& [view, at] : p.shown) {
                const FigureView& v = *f.viewById(view);
                reached.insert(nameOf(v.name));
                CHECK(distance(frameOf(f, v, f.now)(p.at), at) < 1e-6);
                const bool there =
                    std::ranges::any_of(f.points, [&, in = view, place = at](const FigurePoint& q) {
                        return q.view == in && distance(f.at(q, f.now), place) < 2e-3;
                    });
                CHECK(there);
            }
        }
    CHECK(reached == std::set<std::string>{"front", "top", "section A", "auxiliary", "detail C"});
}

TEST_CASE("a view that nothing places is told, and what it is lacking") {
    Document d = opened(demo("worm-housing-cover.dxf"));
    const auto unplaced = [&] {
        std::vector<std::string> r;
        for (const Finding& f : d.model().findings)
            if (f.kind == "view_unplaced") r.push_back(f.message);
        return r;
    };
    CHECK(unplaced().empty());
    // The detail is said to be a section: no cutting line has its letter.
    Choices c = d.choices();
    for (const View& v : d.model().views.views)
        if (v.role == Role::detail) c.views.roles[v.key] = Role::section;
    REQUIRE(d.apply("A section", c, quiet));
    REQUIRE(unplaced().size() == 1);
    CHECK(unplaced()[0].starts_with("No cutting line with its letter is found for DETAIL C"));
    CHECK(d.model().figure.views.size() == 4);
}

TEST_CASE("an auxiliary view that shows the slanted face alone is held against the solid as far as it goes") {
    // A block of 80 x 60 whose corner is cut off at 45 degrees; the view square to the cut shows nothing
    // else.
    const auto sheet = [](double shown) {
        DxfText t;
        t.entities();
        t.line(0, 0, 80, 0).line(80, 0, 80, 20).line(80, 20, 40, 60).line(40, 60, 0, 60).line(0, 60, 0, 0);
        t.box(0, 160, 80, 200).line(40, 160, 40, 200);
        const Vec2 out = normalized(Vec2{1, 1});
        const Vec2 low{80, 20}, high{40, 60};
        const Vec2 corners[]{low + out * 40.0, high + out * 40.0, high + out * (40 + shown),
                             low + out * (40 + shown)};
        for (int i = 0; i < 4; ++i) {
            const Vec2 a = corners[i], b = corners[(i + 1) % 4];
            t.line(a.x, a.y, b.x, b.y);
        }
        return t.text(0, -40, "THIRD ANGLE PROJECTION").done();
    };
    const auto auxiliaryOf = [&](double shown) {
        const std::string path = temporary("slanted.dxf");
        std::ofstream(path) << sheet(shown);
        Document d = opened(path);
        REQUIRE(d.model().views.views.size() == 3);
        Choices c = d.choices();
        Step base;
        base.kind = StepKind::extrude, base.reach = Reach::through, base.view = ViewName(Role::front, "");
        for (const ClosedArea& a : d.model().areas.drawn)
            if (d.model().figure.viewById(a.view)->role() == Role::front) base.areas = {a.seed};
        c.steps = {base};
        REQUIRE(d.apply("Build", c, quiet));
        REQUIRE(d.model().proof);
        for (const ViewProof& v : d.model().proof->views)
            if (v.name.role == Role::auxiliary) return v;
        FAIL("no auxiliary view");
        return ViewProof{};
    };
    const ViewProof whole = auxiliaryOf(40);
    CHECK(whole.matched == 4);
    CHECK(whole.missing == 0);
    CHECK(whole.extra == 0);
    // A face drawn four short: its end, and the ends of its sides, are no lines of the solid.
    const ViewProof less = auxiliaryOf(36);
    CHECK(less.missing > 0);
}
