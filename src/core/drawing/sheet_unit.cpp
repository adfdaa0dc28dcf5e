#include "core/drawing/sheet_unit.h"

#include <array>

namespace prism {
namespace {

struct Unit {
    int code; ///< as in the file's head
    const char* name;
    double mm;
};
constexpr std::array kUnits{Unit{1, "inch", 25.4}, Unit{2, "foot", 304.8}, Unit{4, "mm", 1},
                            Unit{5, "cm", 10}, Unit{6, "m", 1000}};

} // namespace

std::string unitOfCode(int code) {
    for (const Unit& u : kUnits)
        if (u.code == code) return u.name;
    return "none";
}

double millimetresIn(const std::string& unit) {
    for (const Unit& u : kUnits)
        if (u.name == unit) return u.mm;
    return 0;
}

} // namespace prism
