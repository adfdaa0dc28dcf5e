#include "support/diagnosed.h"

#include <fstream>

namespace prism::test {

CheckInput inputOf(const Document& d) {
    const Model& m = d.model();
    return {*m.drawing, m.sheet, m.views, m.drawn, m.drawn_ledger};
}

Diagnosis diagnosed(const Document& d) {
    NoProgress quiet;
    auto r = diagnose(d.source(), d.choices(), d.sharedModel(), quiet);
    REQUIRE(r);
    return std::move(*r);
}

Document checked(const std::string& path) {
    NoProgress quiet;
    auto d = Document::open(path, {}, quiet, Stage::checks);
    if (!d) FAIL(d.error().message);
    return std::move(*d);
}

Document drawnSheet(const std::string& dxf) {
    const std::string path = temporary("diagnosed.dxf");
    std::ofstream(path) << dxf;
    return checked(path);
}

std::vector<const Finding*> serious(const Diagnosis& d) {
    std::vector<const Finding*> r;
    for (const Finding& f : d.findings)
        if (f.severity != Severity::note) r.push_back(&f);
    return r;
}

std::string told(const Diagnosis& d) {
    std::string r;
    for (const Finding& f : d.findings) r += f.kind + ": " + f.message + "\n";
    return r;
}

std::vector<Repaired> repaired(Document& d, const std::set<std::string>& kinds) {
    NoProgress quiet;
    auto r = repairAll(d, kinds, quiet);
    REQUIRE(r);
    return std::move(*r);
}

bool sameLines(const Figure& a, const Figure& b) {
    const auto within = [](const Figure& f, const Figure& g) {
        return std::ranges::all_of(f.curves, [&](const FigureCurve& c) {
            const ViewName& view = f.viewById(c.view)->name;
            return std::ranges::all_of(std::array{0.0, 0.3, 0.5, 0.8, 1.0}, [&](double t) {
                return std::ranges::any_of(g.curves, [&](const FigureCurve& o) {
                    return g.viewById(o.view)->name == view && o.role == c.role &&
                           distanceTo(o.drawn, pointAt(c.drawn, t)) < 1e-6;
                });
            });
        });
    };
    return within(a, b) && within(b, a);
}

} // namespace prism::test
