#include "core/proposing/propose.h"
#include "support/samples.h"

#include <filesystem>
#include <set>

using namespace prism;
using namespace prism::test;

// A sheet turned over is the sheet of the mirrored part, in the same angle: what is right of the front view
// becomes what is left of it. Whatever is found, closed or built must be found on the other side, and a sheet
// moved elsewhere must be read as before.
namespace {

struct Way {
    std::string name;
    Affine2 by;
    std::map<Role, Role> roles;
};

std::vector<Way> ways() {
    return {{"moved", Affine2::shift({31000.5, -20640.25}), {}},
            {"turned over sideways",
             Affine2::scale(-1, 1),
             {{Role::left, Role::right}, {Role::right, Role::left}}},
            {"turned over upwards",
             Affine2::scale(1, -1),
             {{Role::top, Role::bottom}, {Role::bottom, Role::top}}}};
}

/// Words stay readable; only their places move.
Drawing put(Drawing d, const Affine2& m) {
    for (Entity& e : d.entities) {
        for (Curve& c : e.curves) c = transformed(c, m);
        if (e.point) e.point = m(*e.point);
    }
    for (SheetText& t : d.texts) {
        t.position = m(t.position);
        const Vec2 along = m.linear(direction(t.rotation)), up = m.linear(direction(t.rotation + kPi / 2));
        if (along.x < -1e-9) t.halign = -t.halign;
        if (up.y < -1e-9) t.valign = -t.valign;
    }
    for (Dimension& n : d.dimensions) {
        for (Vec2* p : {&n.p10, &n.p13, &n.p14, &n.p15, &n.p16, &n.text_at}) *p = m(*p);
        n.angle = angleOf(m.linear(direction(n.angle)));
    }
    return d;
}

struct Told {
    ViewSet views;
    Figure figure;
    std::vector<Finding> findings;
    std::vector<double> numbers;
    std::multiset<std::string> roles, kinds, relations;
    std::vector<std::pair<std::string, double>> areas;
};

Told told(const Drawing& d, Convention angle, const Way& way) {
    NoProgress p;
    ViewChoices choices;
    Told r;
    CleanSheet sheet = clean(d, {}, {});
    // The symbol of the angle says the other one when it is turned over: it is told by hand.
    choices.convention = angle;
    r.views = findViews(*sheet.drawing, sheet, choices, p);
    if (r.views.completed) sheet = *r.views.completed;
    const auto nameHere = [&](int id) {
        const View& v = r.views.views[static_cast<size_t>(id)];
        const auto other = way.roles.find(v.role);
        return std::string(nameOf(other == way.roles.end() ? v.role : other->second)) + v.letter;
    };
    for (const View& v : r.views.views) r.roles.insert(nameHere(v.id));
    r.figure = buildFigure(*sheet.drawing, sheet, r.views, p);
    bool symmetric = false; // of marks that lie at one coordinate any may stand for all
    for (const Relation& q : r.figure.relations)
        if (q.kind == RelationKind::symmetric)
            symmetric = true;
        else if (q.kind == RelationKind::parallel) // lines are tied in the order of their directions
            r.relations.insert(nameOf(RelationKind::perpendicular));
        else
            r.relations.insert(nameOf(q.kind));
    if (symmetric) r.relations.insert(nameOf(RelationKind::symmetric));
    const Ledger ledger = makeLedger(*sheet.drawing, r.views, r.figure);
    for (const LedgerEntry& e : ledger.entries) r.numbers.push_back(e.value);
    std::ranges::sort(r.numbers);
    r.findings = check({*sheet.drawing, sheet, r.views, r.figure, ledger}, p);
    for (const Finding& f : r.findings) {
        std::set<std::string> of;
        for (int v : f.views) of.insert(nameHere(v));
        std::string kind = fmt::format("{} {}", nameOf(f.severity), f.kind);
        for (const std::string& v : of) kind += " " + v;
        r.kinds.insert(kind);
    }
    for (const ClosedArea& a : AreaSets(r.figure, p).drawn) r.areas.emplace_back(nameHere(a.view), a.area);
    std::ranges::sort(r.areas);
    return r;
}

void checkSame(const Told& plain, const Told& other) {
    CHECK(other.roles == plain.roles);
    CHECK(other.kinds == plain.kinds);
    CHECK(other.relations == plain.relations);
    REQUIRE(other.numbers.size() == plain.numbers.size());
    for (size_t i = 0; i < plain.numbers.size(); ++i)
        CHECK(other.numbers[i] == Approx(plain.numbers[i]).epsilon(1e-6));
    REQUIRE(other.areas.size() == plain.areas.size());
    for (size_t i = 0; i < plain.areas.size(); ++i) {
        CHECK(other.areas[i].first == plain.areas[i].first);
        CHECK(other.areas[i].second == Approx(plain.areas[i].second).epsilon(1e-4).margin(0.02));
    }
}

/// Of two views one above the other the lower one is taken for the front view, whichever it was.
bool tellsBottom(const Told& t, const Way& w) {
    return !w.roles.contains(Role::top) || t.roles.contains("left") || t.roles.contains("right");
}

} // namespace

TEST_CASE("a sheet that is moved or turned over tells the same, on the other side") {
    for (const std::string folder : {"sheets", "rich", "parts"})
        for (const auto& file : std::filesystem::directory_iterator(PRISM_TEST_DATA "/" + folder)) {
            if (file.path().extension() != ".dxf") continue;
            NoProgress quiet;
            const Document d = *Document::open(file.path(), {}, quiet, Stage::views);
            const Convention angle = d.model().views.projection.laid_out;
            const Told plain = told(*d.model().source, angle, {"", {}, {}});
            for (const Way& w : ways()) {
                // Which of several parts is worked on first hangs on where it stands.
                if (!tellsBottom(plain, w) || (plain.views.parts.size() > 1 && !w.roles.empty())) continue;
                INFO(file.path().filename() << " " << w.name);
                checkSame(plain, told(put(*d.model().source, w.by), angle, w));
            }
        }
}

TEST_CASE("the solid of a sheet that is turned over is as large, and as surely proved", "[slow]") {
    for (const Sample& s : samples()) {
        if (!s.clean()) continue;
        NoProgress quiet;
        const Document d = *Document::open(s.path, {}, quiet, Stage::views);
        const Convention angle = d.model().views.projection.laid_out;
        const Told plain = told(*d.model().source, angle, {"", {}, {}});
        for (const Way& w : ways()) {
            if (!tellsBottom(plain, w)) continue;
            INFO(s.name << " " << w.name);
            const Told other = told(put(*d.model().source, w.by), angle, w);
            const auto p = propose(other.figure, quiet, Effort::exact);
            REQUIRE(p);
            CHECK(p->clean);
            CHECK(p->build.measure.volume == Approx(s.truth["volume"].get<double>()).epsilon(2e-5));
        }
    }
}
