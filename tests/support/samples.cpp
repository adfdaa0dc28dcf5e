#include "support/samples.h"

#include <catch2/catch.hpp>

#include "core/reading/read.h"

#include <filesystem>
#include <fmt/format.h>
#include <fstream>
#include <sstream>

namespace prism::test {

std::vector<Sample> samples() {
    std::vector<Sample> r;
    for (const auto& f : std::filesystem::directory_iterator(PRISM_TEST_DATA "/sheets"))
        if (f.path().extension() == ".dxf") r.push_back(sample(f.path().stem().string()));
    std::sort(r.begin(), r.end(), [](const Sample& a, const Sample& b) { return a.name < b.name; });
    return r;
}

Sample sample(const std::string& name) {
    const std::string base = std::string(PRISM_TEST_DATA "/sheets/") + name;
    std::ifstream in(base + ".truth.json");
    return {name, base + ".dxf", Json::parse(in)};
}

std::string demo(const std::string& file) {
    return std::string(PRISM_DEMO "/") + file;
}

Document opened(const std::string& path) {
    NoProgress quiet;
    auto d = Document::open(path, quiet);
    INFO((d ? std::string() : d.error().message));
    REQUIRE(d.has_value());
    return std::move(*d);
}

Drawing drawn(const std::string& dxf) {
    NoProgress quiet;
    auto d = readDrawing(dxf, quiet);
    INFO((d ? std::string() : d.error().message));
    REQUIRE(d.has_value());
    return std::move(*d);
}

DxfText::DxfText(int insunits) {
    group(0, "SECTION").group(2, "HEADER").group(9, "$ACADVER").group(1, "AC1015");
    group(9, "$INSUNITS").group(70, std::to_string(insunits)).group(0, "ENDSEC");
    group(0, "SECTION").group(2, "TABLES");
    group(0, "TABLE").group(2, "LTYPE");
    group(0, "LTYPE").group(2, "HIDDEN").group(70, "0").group(49, 3.0).group(49, -1.5);
    group(0, "LTYPE")
        .group(2, "CENTER")
        .group(70, "0")
        .group(49, 10.0)
        .group(49, -2.0)
        .group(49, 2.0)
        .group(49, -2.0);
    group(0, "ENDTAB").group(0, "TABLE").group(2, "LAYER");
    layer("OUTLINE").layer("HIDDEN", "HIDDEN").layer("CENTRE", "CENTER").layer("DIM").layer("TEXT");
}

DxfText& DxfText::group(int code, const std::string& value) {
    text_ += fmt::format("{:3}\n{}\n", code, value);
    return *this;
}

DxfText& DxfText::group(int code, double value) {
    return group(code, fmt::format("{:.12g}", value));
}

std::string DxfText::handle() {
    return fmt::format("{:X}", ++handle_);
}

DxfText& DxfText::layer(const std::string& name, const std::string& lineType, int color) {
    return group(0, "LAYER")
        .group(2, name)
        .group(70, "0")
        .group(62, std::to_string(color))
        .group(6, lineType);
}

void DxfText::closeTables() {
    if (tables_) group(0, "ENDTAB").group(0, "ENDSEC");
    tables_ = false;
}

DxfText& DxfText::block(const std::string& name, double x, double y) {
    closeTables();
    if (!blocks_) group(0, "SECTION").group(2, "BLOCKS");
    blocks_ = true;
    return group(0, "BLOCK").group(2, name).group(70, "0").group(10, x).group(20, y);
}

DxfText& DxfText::endBlock() {
    return group(0, "ENDBLK");
}

DxfText& DxfText::entities() {
    closeTables();
    if (std::exchange(blocks_, false)) group(0, "ENDSEC");
    entities_ = true;
    return group(0, "SECTION").group(2, "ENTITIES");
}

DxfText& DxfText::line(double x0, double y0, double x1, double y1, const std::string& layer) {
    return group(0, "LINE")
        .group(5, handle())
        .group(8, layer)
        .group(10, x0)
        .group(20, y0)
        .group(11, x1)
        .group(21, y1);
}

DxfText& DxfText::box(double x0, double y0, double x1, double y1, const std::string& layer) {
    return line(x0, y0, x1, y0, layer)
        .line(x1, y0, x1, y1, layer)
        .line(x1, y1, x0, y1, layer)
        .line(x0, y1, x0, y0, layer);
}

DxfText& DxfText::circle(double x, double y, double r, const std::string& layer) {
    return group(0, "CIRCLE").group(5, handle()).group(8, layer).group(10, x).group(20, y).group(40, r);
}

DxfText& DxfText::arc(double x, double y, double r, double from, double to, const std::string& layer) {
    return group(0, "ARC")
        .group(5, handle())
        .group(8, layer)
        .group(10, x)
        .group(20, y)
        .group(40, r)
        .group(50, from)
        .group(51, to);
}

DxfText& DxfText::text(double x, double y, const std::string& words) {
    return group(0, "TEXT")
        .group(5, handle())
        .group(8, "TEXT")
        .group(10, x)
        .group(20, y)
        .group(40, 3.5)
        .group(1, words);
}

DxfText& DxfText::dimension(double x0, double y0, double x1, double y1, double lx, double ly, double angle,
                            const std::string& words) {
    group(0, "DIMENSION").group(5, handle()).group(8, "DIM").group(70, "0").group(10, lx).group(20, ly);
    group(11, 0.5 * (x0 + x1))
        .group(21, ly)
        .group(13, x0)
        .group(23, y0)
        .group(14, x1)
        .group(24, y1)
        .group(50, angle);
    return words.empty() ? *this : group(1, words);
}

std::string DxfText::done() const {
    return text_ + "  0\nENDSEC\n  0\nEOF\n";
}

ViewSet viewsOf(const DxfText& t, const ViewChoices& choices) {
    NoProgress quiet;
    const Drawing d = drawn(t.done());
    return findViews(d, clean(d, {}), choices, quiet);
}

std::string temporary(const std::string& name) {
    const auto p =
        std::filesystem::temp_directory_path() / fmt::format("upper-prism-test-{}-{}", ::getpid(), name);
    std::filesystem::remove_all(p);
    return p.string();
}

std::string bytesOf(const std::string& path) {
    std::ifstream in(path, std::ios::binary);
    std::ostringstream s;
    s << in.rdbuf();
    return s.str();
}

} // namespace prism::test
