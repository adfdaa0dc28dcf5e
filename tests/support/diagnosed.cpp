#include "support/diagnosed.h"

#include <fstream>

namespace prism::test {

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

} // namespace prism::test
