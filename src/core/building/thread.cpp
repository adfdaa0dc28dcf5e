#include "core/building/thread.h"

#include "core/base/text_scanner.h"

#include <algorithm>
#include <array>

namespace prism {
namespace {

/// Coarse pitches of ISO 261 by diameter, mm.
constexpr std::array<std::pair<double, double>, 25> kCoarse{
    {{1.6, 0.35}, {2, 0.4},  {2.5, 0.45}, {3, 0.5}, {3.5, 0.6}, {4, 0.7},  {5, 0.8},  {6, 1},    {7, 1},
     {8, 1.25},   {10, 1.5}, {12, 1.75},  {14, 2},  {16, 2},    {18, 2.5}, {20, 2.5}, {22, 2.5}, {24, 3},
     {27, 3},     {30, 3.5}, {33, 3.5},   {36, 4},  {39, 4},    {42, 4.5}, {48, 5}}};

} // namespace

std::optional<Thread> threadNamed(const std::string& designation, double pitch) {
    TextScanner scan(designation);
    scan.skipSpaces();
    if (!scan.take("M") && !scan.take("m")) return std::nullopt;
    const auto diameter = scan.number();
    if (!diameter || *diameter <= 0) return std::nullopt;
    scan.skipSpaces();
    if (scan.take("x") || scan.take("X") || scan.take("\u00D7")) {
        scan.skipSpaces();
        if (const auto own = scan.number()) pitch = *own;
    }
    if (pitch <= 0) {
        const auto coarse = std::ranges::find(kCoarse, *diameter, [](const auto& row) { return row.first; });
        if (coarse == kCoarse.end()) return std::nullopt;
        pitch = coarse->second;
    }
    if (pitch >= *diameter / 2) return std::nullopt;
    return Thread{*diameter, pitch};
}

} // namespace prism
