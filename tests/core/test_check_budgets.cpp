#include "support/diagnosed.h"

using namespace prism;
using namespace prism::test;

// How much a check may try, and that it says where it ended.

namespace {

/// A plate with rows of square holes in front and top view; of every third hole the lines in the front view
/// stand elsewhere, each by another amount.
std::string combed(int holes, bool slips) {
    DxfText t;
    t.layer("OUTLINE").layer("HIDDEN", "HIDDEN");
    t.entities().text(0, -60, "THIRD ANGLE");
    const double l = 10.0 * holes + 10;
    t.box(0, 0, l, 12).box(0, 60, l, 100);
    for (int i = 0; i < holes; ++i) {
        const double x = 10.0 * i + 6, off = slips && i % 3 == 0 ? 0.5 + 0.07 * i : 0;
        t.box(x, 70, x + 6, 90);
        t.line(x + off, 0, x + off, 12, "HIDDEN").line(x + 6 + off, 0, x + 6 + off, 12, "HIDDEN");
    }
    return t.done();
}

} // namespace

TEST_CASE("the larger a sheet the fewer repairs are tried on it, and where that ends is said") {
    const Diagnosis few = diagnosed(drawnSheet(combed(12, true))),
                    many = diagnosed(drawnSheet(combed(80, true)));
    INFO(few.tried << " " << few.left_undone << "; " << many.tried << " " << many.left_undone);
    CHECK(few.tried > many.tried);
    CHECK(many.tried > 4);
    CHECK(many.tried * 488 <= 30'000); // of as many lines each
    CHECK(many.left_undone.find("ended after") != std::string::npos);
    CHECK_FALSE(serious(many).empty());
    CHECK(serious(diagnosed(drawnSheet(combed(80, false)))).empty());
}
