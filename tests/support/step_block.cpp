#include "support/step_block.h"

#include "core/project/project_file.h"

#include <fstream>

namespace prism::test {

DxfText block() {
    DxfText t;
    t.layer("HIDDEN", "HIDDEN").entities().box(0, 0, 80, 20).box(0, 60, 80, 110);
    return t;
}

Document documentOf(DxfText t) {
    const std::string path = temporary("steps.dxf");
    std::ofstream(path) << t.text(120, 0, "THIRD ANGLE PROJECTION").done();
    return opened(path);
}

Document built(const DxfText& sheet, const std::string& steps) {
    Document d = documentOf(sheet);
    const auto list = readBuildList(steps);
    INFO((list ? "" : list.error().message));
    REQUIRE(list);
    Choices c = d.choices();
    c.levels = list->levels, c.steps = list->steps;
    NoProgress quiet;
    REQUIRE(d.apply("Build", c, quiet));
    return d;
}

double volumeOf(const Document& d) {
    for (const StepReport& s : d.model().build.steps) {
        INFO(s.name << " " << s.what << ": " << s.message);
        CHECK(s.ok);
    }
    CHECK(d.model().build.ok());
    return d.model().build.measure.volume;
}

double volumeOf(const DxfText& sheet, const std::string& steps) {
    return volumeOf(built(sheet, steps));
}

std::string told(const DxfText& sheet, const std::string& steps) {
    const Document d = built(sheet, steps);
    const StepReport& s = d.model().build.steps.back();
    CHECK_FALSE(s.ok);
    return s.message;
}

std::string onBlock(const std::string& more) {
    return R"([{"kind": "extrude", "name": "block", "view": "front", "areas": [[40, 10]]}, )" + more + "]";
}

std::string wrongField(const std::string& steps) {
    const auto r = readBuildList(steps);
    REQUIRE_FALSE(r);
    CHECK(r.error().code == ErrorCode::usage);
    return r.error().message;
}

} // namespace prism::test
