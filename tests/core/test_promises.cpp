#include "core/project/propose_for.h"
#include "support/diagnosed.h"

#include <random>

using namespace prism;
using namespace prism::test;

// What a check promises of a sheet and of its repairs is true of the sheet, and of the sheet when repaired;
// whatever is wrong on it.

namespace {

struct Line {
    Vec2 a, b;
    bool hidden = false;
};

/// A block with a step, a pocket in its side, a notch and a bore: front, top and right view, third angle.
std::vector<Line> stepped(std::mt19937& random) {
    const auto any = [&](int lo, int hi) {
        return 0.5 * static_cast<double>(std::uniform_int_distribution<int>(2 * lo, 2 * hi)(random));
    };
    const double l = any(80, 110), w = any(44, 60), h = any(40, 60), step = any(38, 50), low = any(14, 24);
    const double p0 = any(52, 56), p1 = any(66, 72), deep = any(8, 14), at = any(5, 7); // the pocket's
    const double n0 = any(18, 24), n1 = any(30, 36);                                    // the notch's
    std::vector<Line> r;
    const auto box = [&](Vec2 lo, Vec2 hi, bool hidden = false) {
        r.push_back({lo, {hi.x, lo.y}, hidden}), r.push_back({{hi.x, lo.y}, hi, hidden});
        r.push_back({hi, {lo.x, hi.y}, hidden}), r.push_back({{lo.x, hi.y}, lo, hidden});
    };
    const auto chain = [&](const std::vector<Vec2>& p) {
        for (size_t i = 0; i + 1 < p.size(); ++i) r.push_back({p[i], p[i + 1]});
    };
    // Front: the step, the pocket's mouth, the notch behind.
    chain({{0, 0}, {l, 0}, {l, low}, {step, low}, {step, h}, {0, h}, {0, 0}});
    box({p0, at}, {p1, low - 3});
    r.push_back({{n0, 0}, {n0, h}, true}), r.push_back({{n1, 0}, {n1, h}, true});
    // Top: 90 above; the notch in the far side is open there.
    const Vec2 top{0, 90};
    const double cut = any(10, 16);
    chain({top, top + Vec2{l, 0}, top + Vec2{l, w}, top + Vec2{n1, w}, top + Vec2{n1, w - cut},
           top + Vec2{n0, w - cut}, top + Vec2{n0, w}, top + Vec2{0, w}, top});
    r.push_back({top + Vec2{step, 0}, top + Vec2{step, w}});
    r.push_back({top + Vec2{p0, 0}, top + Vec2{p0, deep}, true});
    r.push_back({top + Vec2{p0, deep}, top + Vec2{p1, deep}, true});
    r.push_back({top + Vec2{p1, deep}, top + Vec2{p1, 0}, true});
    // Right: beside the front view.
    const Vec2 right{150, 0};
    box(right, right + Vec2{w, h});
    r.push_back({right + Vec2{0, low}, right + Vec2{w, low}});
    r.push_back({right + Vec2{w - cut, 0}, right + Vec2{w - cut, h}, true});
    r.push_back({right + Vec2{0, at}, right + Vec2{deep, at}, true});
    r.push_back({right + Vec2{deep, at}, right + Vec2{deep, low - 3}, true});
    r.push_back({right + Vec2{deep, low - 3}, right + Vec2{0, low - 3}, true});
    return r;
}

Document drawn(const std::vector<Line>& lines) {
    DxfText t;
    t.layer("OUTLINE").layer("HIDDEN", "HIDDEN");
    t.entities().text(0, -60, "THIRD ANGLE");
    for (const Line& l : lines) t.line(l.a.x, l.a.y, l.b.x, l.b.y, l.hidden ? "HIDDEN" : "OUTLINE");
    return drawnSheet(t.done());
}

bool hasSolid(const Document& d) {
    NoProgress quiet;
    const auto p = proposeFor(d.model(), quiet);
    return p && p->clean;
}

} // namespace

TEST_CASE("a sheet is called sound only when it is, and a repair said to leave it so does") {
    constexpr const char* kSoundSo = "the sheet repaired so has a solid that shows every line";
    int sound = 0, settled = 0, promised = 0, silent = 0;
    for (unsigned seed = 1; seed <= 40; ++seed) {
        CAPTURE(seed);
        std::mt19937 random(seed);
        std::vector<Line> lines = stepped(random);
        const auto slips = seed % 4; // every fourth sheet has none
        for (unsigned i = 0; i < slips; ++i) {
            const size_t which = random() % lines.size();
            switch (random() % 4) {
            case 0:
                lines.erase(lines.begin() + static_cast<long>(which));
                break;
            case 1:
                lines[which].a = lines[which].a + Vec2{0, 2.5},
                lines[which].b = lines[which].b + Vec2{0, 2.5};
                break;
            default:
                lines[which].hidden = !lines[which].hidden;
            }
        }
        const Document d = drawn(lines);
        const Diagnosis found = diagnosed(d);
        INFO(told(found));
        if (slips == 0) CHECK(found.sound);
        if (found.sound) CHECK(hasSolid(d));
        // What the checks found is told, or is a symptom of what is told; nothing else is called a symptom.
        const auto isTold = [&](const Finding& was) {
            return std::ranges::any_of(found.findings, [&](const Finding& f) {
                return f.message == was.message || (f.kind == was.kind && f.handles == was.handles) ||
                       std::ranges::find(f.symptoms, was.message) != f.symptoms.end();
            });
        };
        for (const Finding& was : d.model().findings) {
            INFO(was.kind << ": " << was.message);
            if (was.severity != Severity::note) CHECK(isTold(was));
        }
        for (const Finding& f : found.findings)
            for (const std::string& symptom : f.symptoms) {
                INFO(f.message << "; symptom: " << symptom);
                CHECK(std::ranges::none_of(d.model().findings, [&](const Finding& was) {
                    return was.message == symptom && was.severity == Severity::note;
                }));
            }
        sound += found.sound, silent += serious(found).empty();
        std::vector<Finding> promises;
        if (found.settles) promises.push_back(*found.settles), ++settled;
        for (const Finding& f : found.findings)
            if (!f.remedies.empty() && f.remedies.front().reason == kSoundSo) promises.push_back(f);
        promised += static_cast<int>(promises.size());
        for (const Finding& f : promises) {
            REQUIRE_FALSE(f.remedies.empty());
            Document repaired = d;
            const Choices c = changed(d.choices(), f.remedies.front().change);
            NoProgress quiet;
            REQUIRE(repaired.apply(f.remedies.front().words, c, quiet, Stage::checks));
            INFO(f.kind << ": " << f.remedies.front().words);
            CHECK(hasSolid(repaired));
        }
    }
    INFO(sound << " sound, " << settled << " settled, " << promised << " promised, " << silent << " silent");
    CHECK(sound >= 10);
    CHECK(promised > 10);
}
