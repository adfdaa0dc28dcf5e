// The whole chain as a person waits for it, over growing sheets: messy ones up to their views, eight views of
// one bar up to the findings, plates with many holes through proposal and one changed number. Prints times
// and the exponents with which they grow.
#include "core/project/document.h"
#include "core/project/propose_for.h"

#include <chrono>
#include <fmt/format.h>
#include <fstream>
#include <random>

using namespace prism;

namespace {

NoProgress g_quiet;
constexpr const char* kThirdAngle = "THIRD ANGLE PROJECTION";

double seconds(const std::function<void()>& work) {
    const auto start = std::chrono::steady_clock::now();
    work();
    return std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count();
}

std::string sheet(const std::string& entities) {
    return "0\nSECTION\n2\nHEADER\n9\n$INSUNITS\n70\n4\n0\nENDSEC\n0\nSECTION\n2\nENTITIES\n" + entities +
           "0\nENDSEC\n0\nEOF\n";
}

std::string line(double x0, double y0, double x1, double y1, const char* type = "CONTINUOUS") {
    return fmt::format("0\nLINE\n8\n0\n6\n{}\n10\n{}\n20\n{}\n11\n{}\n21\n{}\n", type, x0, y0, x1, y1);
}

std::string text(double x, double y, double height, std::string_view words) {
    return fmt::format("0\nTEXT\n8\n0\n10\n{}\n20\n{}\n40\n{}\n1\n{}\n", x, y, height, words);
}

std::string box(double x, double y, double w, double h) {
    return line(x, y, x + w, y) + line(x + w, y, x + w, y + h) + line(x + w, y + h, x, y + h) +
           line(x, y + h, x, y);
}

/// Crossing lines and arcs without any order, on one sheet of paper.
std::string messy(int n) {
    std::mt19937 random(1);
    std::uniform_real_distribution<double> x(0, 400), y(0, 280), by(-40, 40), radius(1, 15), angle(0, 360);
    std::string s;
    for (int i = 0; i < n; ++i) {
        const double a = x(random), b = y(random);
        s += i % 7 ? line(a, b, a + by(random), b + by(random))
                   : fmt::format("0\nARC\n8\n0\n10\n{}\n20\n{}\n40\n{}\n50\n{}\n51\n{}\n", a, b,
                                 radius(random), angle(random), angle(random));
    }
    return sheet(s);
}

/// A plate with holes in rows, from above and from the front.
std::string plate(int columns, int rows) {
    const double pitch = 12, w = pitch * (columns + 1), h = pitch * (rows + 1);
    std::string s = box(0, 0, w, h) + box(0, -60, w, 15);
    for (int i = 1; i <= columns; ++i) {
        for (int j = 1; j <= rows; ++j)
            s += fmt::format("0\nCIRCLE\n8\n0\n10\n{}\n20\n{}\n40\n3.5\n", pitch * i, pitch * j);
        for (double side : {-3.5, 3.5}) s += line(pitch * i + side, -60, pitch * i + side, -45, "HIDDEN");
    }
    s += fmt::format("0\nDIMENSION\n8\n0\n70\n0\n10\n0\n20\n{}\n13\n0\n23\n{}\n14\n{}\n24\n{}\n50\n0\n",
                     h + 15, h, w, h);
    return sheet(s + text(0, -80, 3, kThirdAngle));
}

/// A bar with grooves of different depth across its top, in eight views: the six principal ones and two
/// sections along it; 22 lines a groove.
std::string grooved(int grooves) {
    const double pitch = 10, wide = 6, l = pitch * grooves + 4, w = 60, h = 40 + 0.5 * grooves, gap = 80;
    const auto floor = [&](int i) { return h - 10 - 0.5 * i; };
    std::string s;
    const auto along = [&](double x0, double y0, bool from_behind) { // front, rear and sections
        const auto at = [&](double x) { return from_behind ? x0 + l - x : x0 + x; };
        const auto add = [&](double xa, double za, double xb, double zb) {
            s += line(at(xa), y0 + za, at(xb), y0 + zb);
        };
        add(0, 0, l, 0), add(0, 0, 0, h), add(l, 0, l, h);
        double land = 0;
        for (int i = 0; i < grooves; ++i) {
            const double a = 4 + pitch * i, b = a + wide, z = floor(i);
            add(land, h, a, h), add(a, h, a, z), add(a, z, b, z), add(b, z, b, h);
            land = b;
        }
        add(land, h, l, h);
    };
    const double above = h + gap, below = -gap - w;
    along(0, 0, false), along(l + 2 * gap + w, 0, true);
    for (const auto& [y, type] : {std::pair{above, "CONTINUOUS"}, {below, "HIDDEN"}}) {
        s += box(0, y, l, w);
        for (int i = 0; i < grooves; ++i)
            for (double x : {4 + pitch * i, 4 + pitch * i + wide}) s += line(x, y, x, y + w, type);
    }
    for (double x : {l + gap, below}) {
        s += box(x, 0, w, h);
        for (int i = 0; i < grooves; ++i) s += line(x, floor(i), x + w, floor(i), "HIDDEN");
    }
    double down = below;
    for (const auto& [deep, letter] : {std::pair{20.0, "A"}, {45.0, "B"}}) {
        down -= h + 2 * gap;
        along(0, down, false);
        s += text(l / 2, down - 20, 7, fmt::format("{0}-{0}", letter));
        const double y = above + deep;
        s += line(-15, y, l + 15, y, "CENTER") + line(-15, y, -15, y + 8) + line(l + 15, y, l + 15, y + 8) +
             text(-22, y + 3, 5, letter) + text(l + 17, y + 3, 5, letter);
    }
    return sheet(s + text(0, down - 60, 10, kThirdAngle));
}

/// Stairs of so many steps, each with a pocket from above but the last: 7 n - 1 faces; from the front, from
/// above and from the right.
std::string stairs(int steps) {
    const double run = 20, rise = 5, w = 60, deep = 3, l = run * steps, h = rise * steps, gap = 40;
    const double above = h + gap, beside = l + gap;
    const auto top = [&](int i) { return h - rise * i; };
    std::string s = line(0, 0, l, 0) + line(0, 0, 0, h) + box(0, above, l, w) + line(beside, 0, beside, h) +
                    line(beside + w, 0, beside + w, h) + line(beside, 0, beside + w, 0);
    for (int i = 0; i < steps; ++i) {
        const double x = run * i, z = top(i), from = 8 + i % 7, to = w - 8 - i % 5;
        s += line(x, z, x + run, z) + line(x + run, z, x + run, z - rise) + line(beside, z, beside + w, z);
        if (i + 1 < steps) s += line(x + run, above, x + run, above + w);
        if (i + 1 == steps) continue;
        const double in = x + 4, out = x + 14, floor = z - deep;
        s += box(in, above + from, out - in, to - from);
        s += line(in, z, in, floor, "HIDDEN") + line(out, z, out, floor, "HIDDEN") +
             line(in, floor, out, floor, "HIDDEN");
        s += line(beside + from, z, beside + from, floor, "HIDDEN") +
             line(beside + to, z, beside + to, floor, "HIDDEN") +
             line(beside + from, floor, beside + to, floor, "HIDDEN");
    }
    return sheet(s + text(0, -30, 3, kThirdAngle));
}

std::string written(const std::string& dxf) {
    const std::string path = "/tmp/upper-prism-chain.dxf";
    std::ofstream(path) << dxf;
    return path;
}

/// The steps of a proposal, those with several holes or areas cut away taken apart: one step for each.
std::vector<Step> oneByOne(const std::vector<Step>& steps) {
    std::vector<Step> r;
    for (const Step& s : steps) {
        const bool pockets = s.kind == StepKind::extrude && s.operation == Operation::cut && s.tops.empty();
        std::vector<Vec2> Step::*const many = s.kind == StepKind::hole ? &Step::places : &Step::areas;
        if (s.kind != StepKind::hole && !pockets) {
            r.push_back(s);
            continue;
        }
        for (const Vec2& one : s.*many) {
            r.push_back(s);
            r.back().*many = {one};
        }
    }
    return r;
}

/// The list of one sheet built from nothing, then with its last step changed: alone, and with the proof of
/// every view that a person waits for as well.
void longList(const char* what, const std::string& dxf) {
    auto d = Document::open(written(dxf), {}, g_quiet, Stage::figure).value();
    Choices c = d.choices();
    c.steps = oneByOne(proposeFor(d.model(), g_quiet).value().steps);
    const Figure& f = d.model().figure;
    const AreaSets areas(f);
    BuildResult built, again;
    const double whole = seconds([&] { built = build(f, areas, c.steps, g_quiet); });
    Choices changed = c;
    Step& last = changed.steps.back();
    if (last.kind == StepKind::hole)
        last.hole.diameter = 5.0;
    else
        last.from = {Bound::Kind::value, {}, 2.0};
    const auto stepsOf = [&](const std::vector<Step>& steps) {
        again = build(f, areas, steps, g_quiet, {}, &built);
    };
    // A person changes the last step more than once: what lies before it is joined at the first time.
    const double first = seconds([&] { stepsOf(changed.steps); });
    built = again;
    const double next = seconds([&] { stepsOf(c.steps); });
    if (!again.ok() || !d.apply("Build", c, g_quiet)) fmt::print("not built\n");
    const double proved = seconds([&] { (void)d.apply("Change", changed, g_quiet); });
    fmt::print(
        "{}: {} steps in {:.3f} s; the last one changed {:.3f} s, once more {:.3f} s, with findings and "
        "proof {:.3f} s\n",
        what, c.steps.size(), whole, first, next, proved);
}

/// Prints times with the exponent from each size to the next.
struct Growth {
    const char* what;
    double size = 0, time = 0;
    void add(double n, double t) {
        if (size > 0)
            fmt::print("{:34} {:8.0f}  {:8.3f} s  exponent {:.2f}\n", what, n, t,
                       std::log(t / time) / std::log(n / size));
        else
            fmt::print("{:34} {:8.0f}  {:8.3f} s\n", what, n, t);
        size = n, time = t;
    }
};

} // namespace

int main() {
    Growth views{"messy sheet, opened to its views"}, figure{"messy sheet, its figure"};
    for (int n : {1000, 3000, 10000, 30000, 100000}) {
        const std::string path = written(messy(n));
        std::optional<Document> d;
        views.add(n, seconds([&] { d.emplace(Document::open(path, {}, g_quiet, Stage::views).value()); }));
        figure.add(n, seconds([&] {
                       d->complete(computeModel(d->source(), d->choices(), d->sharedModel(), d->choices(),
                                                g_quiet, Stage::figure)
                                       .value());
                   }));
    }
    Growth checked{"eight views, checked, by lines"}, opened{"the same from the file to the findings"};
    for (int n : {57, 114, 228, 456}) {
        const std::string path = written(grooved(n));
        const double whole = seconds([&] { (void)Document::open(path, {}, g_quiet, Stage::checks).value(); });
        auto d = Document::open(path, {}, g_quiet, Stage::figure).value();
        checked.add(22 * n + 32, seconds([&] {
                        d.complete(computeModel(d.source(), d.choices(), d.sharedModel(), d.choices(),
                                                g_quiet, Stage::checks)
                                       .value());
                    }));
        opened.add(22 * n + 32, whole);
        if (d.model().views.views.size() != 8 || !d.model().findings.empty()) fmt::print("not silent\n");
    }
    longList("plate with holes one by one", plate(10, 6));
    longList("stairs with pockets one by one", stairs(31));
    Growth stepped{"stairs with pockets, by faces"}, cells{"cells of the same"};
    for (int n : {4, 8, 16, 32}) {
        auto d = Document::open(written(stairs(n)), {}, g_quiet, Stage::figure).value();
        Work work;
        std::optional<Proposal> p;
        const double took =
            seconds([&] { p.emplace(proposeFor(d.model(), Search{}, work, g_quiet).value()); });
        stepped.add(p->build.measure.faces, took);
        cells.add(work.cells(), took);
        if (!p->clean || p->build.measure.faces != 7 * n - 1) fmt::print("not the part that was drawn\n");
    }
    Growth propose{"plate with holes, proposed"}, change{"plate with holes, one number changed"};
    for (const auto& [columns, rows] : {std::pair{12, 8}, {20, 15}, {30, 25}}) {
        auto d = Document::open(written(plate(columns, rows)), {}, g_quiet, Stage::figure).value();
        std::optional<Proposal> p;
        propose.add(columns * rows, seconds([&] { p.emplace(proposeFor(d.model(), g_quiet).value()); }));
        Choices c = d.choices();
        c.steps = p->steps;
        if (!d.apply("Build", c, g_quiet, Stage::solid, {p->steps, p->build, p->proof})) return 1;
        if (d.model().ledger.entries.empty()) return 1;
        c.numbers[d.model().ledger.entries[0].name].value = d.model().ledger.entries[0].value + 4;
        change.add(columns * rows, seconds([&] { (void)d.apply("Change", c, g_quiet); }));
        if (!p->clean || !d.model().proof->clean()) fmt::print("the solid does not show every line\n");
    }
}
