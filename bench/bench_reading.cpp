#include "core/reading/read.h"

#include <benchmark/benchmark.h>
#include <dxflib/dl_creationadapter.h>
#include <dxflib/dl_dxf.h>
#include <fmt/format.h>
#include <malloc.h>
#include <sstream>

// Reading a sheet of 100,000 entities, against the bare parse of a general-purpose DXF library in the same
// run: at most three times its time is wanted, and at most 500 bytes an entity in memory.

using namespace prism;

namespace {

constexpr int kEntities = 100'000;

/// Lines, arcs, circles and texts in equal shares, spread over a sheet.
const std::string& many() {
    static const std::string bytes = [] {
        std::string s = "0\nSECTION\n2\nHEADER\n9\n$ACADVER\n1\nAC1015\n9\n$"
                        "INSUNITS\n70\n4\n0\nENDSEC\n0\nSECTION\n2\nENTITIES\n";
        for (int i = 0; i < kEntities; ++i) {
            const double x = 10.0 + i % 400 * 1.37, y = 10.0 + i / 400 * 1.91;
            const std::string head = fmt::format("5\n{:X}\n100\nAcDbEntity\n8\nOUTLINE\n100\n", i + 256);
            switch (i % 4) {
            case 0:
                s += fmt::format("0\nLINE\n{}AcDbLine\n10\n{}\n20\n{}\n30\n0.0\n11\n{}\n21\n{}\n31\n0.0\n",
                                 head, x, y, x + 1.1, y + 0.7);
                break;
            case 1:
                s += fmt::format("0\nCIRCLE\n{}AcDbCircle\n10\n{}\n20\n{}\n30\n0.0\n40\n0.45\n", head, x, y);
                break;
            case 2:
                s += fmt::format("0\nARC\n{}AcDbCircle\n10\n{}\n20\n{}\n30\n0.0\n40\n0."
                                 "5\n100\nAcDbArc\n50\n10.0\n51\n170.0\n",
                                 head, x, y);
                break;
            default:
                s += fmt::format(
                    "0\nTEXT\n{}AcDbText\n10\n{}\n20\n{}\n30\n0.0\n40\n0.35\n1\nSPL-{}\n100\nAcDbText\n",
                    head, x, y, i);
            }
        }
        return s + "0\nENDSEC\n0\nEOF\n";
    }();
    return bytes;
}

/// Counts what it is told and keeps nothing.
struct Counter : DL_CreationAdapter {
    int told = 0;
    void addLine(const DL_LineData&) override { ++told; }
    void addCircle(const DL_CircleData&) override { ++told; }
    void addArc(const DL_ArcData&) override { ++told; }
    void addText(const DL_TextData&) override { ++told; }
};

void bareParse(benchmark::State& s) {
    for (auto _ : s) {
        Counter c;
        std::stringstream in(many());
        DL_Dxf dxf;
        dxf.in(in, &c);
        if (c.told != kEntities) s.SkipWithError("the library read something else");
    }
}
BENCHMARK(bareParse)->Unit(benchmark::kMillisecond);

void readingMany(benchmark::State& s) {
    NoProgress quiet;
    double bytes = 0;
    for (auto _ : s) {
        const auto before = mallinfo2().uordblks + mallinfo2().hblkhd;
        const auto d = readDrawing(many(), {}, quiet);
        if (!d || d->entities.size() + d->texts.size() != kEntities)
            s.SkipWithError("not everything was read");
        bytes = static_cast<double>(mallinfo2().uordblks + mallinfo2().hblkhd - before);
    }
    s.counters["bytes_an_entity"] = bytes / kEntities;
    s.SetLabel("target: three times bareParse; 500 bytes an entity");
}
BENCHMARK(readingMany)->Unit(benchmark::kMillisecond);

} // namespace
