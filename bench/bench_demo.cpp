#include "core/project/document.h"
#include "core/proposing/propose.h"
#include "core/reading/read.h"

#include <benchmark/benchmark.h>
#include <fmt/format.h>

// Times of the stages on the demo bracket. Each prints its target; targets are for two shared cores.
// Growth is printed as an exponent for reading and view finding on sheets of many copies of a part.

using namespace prism;

namespace {

NoProgress g_quiet;

const std::string& source() {
    static const std::string bytes = fileBytes(PRISM_DEMO "/roller-bracket.dxf").value();
    return bytes;
}

/// The bracket with a proposed build list.
const Document& built() {
    static const Document d = [] {
        Document r = Document::open(PRISM_DEMO "/roller-bracket.dxf", g_quiet).value();
        const Model& m = r.model();
        Choices c = r.choices();
        c.steps = propose(m.figure, g_quiet)->steps;
        if (!r.apply("Build", c, g_quiet)) std::abort();
        return r;
    }();
    return d;
}

void target(benchmark::State& s, double milliseconds) {
    s.SetLabel(fmt::format("target {} ms", milliseconds));
}

void reading(benchmark::State& s) {
    for (auto _ : s) benchmark::DoNotOptimize(readDrawing(source(), g_quiet));
    target(s, 10);
}
BENCHMARK(reading)->Unit(benchmark::kMillisecond);

void viewFinding(benchmark::State& s) {
    const Model& m = built().model();
    for (auto _ : s) benchmark::DoNotOptimize(findViews(*m.drawing, m.sheet, {}, g_quiet));
    target(s, 20);
}
BENCHMARK(viewFinding)->Unit(benchmark::kMillisecond);

void figureAndLedger(benchmark::State& s) {
    const Model& m = built().model();
    for (auto _ : s) {
        const Figure f = buildFigure(*m.drawing, m.sheet, m.views);
        benchmark::DoNotOptimize(makeLedger(*m.drawing, m.views, f));
    }
    target(s, 30);
}
BENCHMARK(figureAndLedger)->Unit(benchmark::kMillisecond);

void solving(benchmark::State& s) {
    const Model& m = built().model();
    NumberChoices n;
    n["x1"].value = 125;
    for (auto _ : s) {
        Figure f = m.drawn;
        Ledger l = m.drawn_ledger;
        if (!drive(f, l, n).ok()) s.SkipWithError("refused");
    }
    target(s, 20);
}
BENCHMARK(solving)->Unit(benchmark::kMillisecond);

void rebuilding(benchmark::State& s) {
    for (auto _ : s)
        benchmark::DoNotOptimize(build(built().model().figure, built().choices().steps, g_quiet));
    target(s, 100);
}
BENCHMARK(rebuilding)->Unit(benchmark::kMillisecond);

void proving(benchmark::State& s) {
    for (auto _ : s)
        benchmark::DoNotOptimize(prove(built().model().figure, built().model().build.shape, g_quiet));
    target(s, 80);
}
BENCHMARK(proving)->Unit(benchmark::kMillisecond);

/// From a typed value to the solved sheet, the new solid and its proof.
void changeOfADimension(benchmark::State& s) {
    double value = 120;
    for (auto _ : s) {
        Choices c = built().choices();
        c.numbers["x1"].value = value += 0.01;
        const auto m = computeModel(source(), c, built().sharedModel(), built().choices(), g_quiet);
        if (!m || !(*m)->proof || !(*m)->proof->clean()) s.SkipWithError("not proved");
    }
    target(s, 200);
}
BENCHMARK(changeOfADimension)->Unit(benchmark::kMillisecond);

void proposing(benchmark::State& s) {
    const Model& m = built().model();
    for (auto _ : s) benchmark::DoNotOptimize(propose(m.figure, g_quiet));
    target(s, 2000);
}
BENCHMARK(proposing)->Unit(benchmark::kMillisecond);

/// A sheet of n separate plates, each of four lines and a circle.
std::string manyPlates(int n) {
    std::string t = "0\nSECTION\n2\nENTITIES\n";
    auto line = [&](double x0, double y0, double x1, double y1) {
        t += fmt::format("0\nLINE\n8\n0\n10\n{}\n20\n{}\n11\n{}\n21\n{}\n", x0, y0, x1, y1);
    };
    for (int i = 0; i < n; ++i) {
        const double x = 30 * (i % 100), y = 20 * (i / 100);
        line(x, y, x + 20, y), line(x + 20, y, x + 20, y + 10), line(x + 20, y + 10, x, y + 10),
            line(x, y + 10, x, y);
        t += fmt::format("0\nCIRCLE\n8\n0\n10\n{}\n20\n{}\n40\n3\n", x + 10, y + 5);
    }
    return t + "0\nENDSEC\n0\nEOF\n";
}

void readingGrowth(benchmark::State& s) {
    const std::string bytes = manyPlates(static_cast<int>(s.range(0)));
    for (auto _ : s) benchmark::DoNotOptimize(readDrawing(bytes, g_quiet));
    s.SetComplexityN(s.range(0) * 5);
}
BENCHMARK(readingGrowth)->RangeMultiplier(4)->Range(64, 16384)->Unit(benchmark::kMillisecond)->Complexity();

void cleaningGrowth(benchmark::State& s) {
    const auto d = std::make_shared<const Drawing>(
        readDrawing(manyPlates(static_cast<int>(s.range(0))), g_quiet).value());
    for (auto _ : s) benchmark::DoNotOptimize(clean(d, {}, {}));
    s.SetComplexityN(s.range(0) * 5);
}
BENCHMARK(cleaningGrowth)->RangeMultiplier(4)->Range(64, 16384)->Unit(benchmark::kMillisecond)->Complexity();

} // namespace

int main(int argc, char** argv) {
    benchmark::Initialize(&argc, argv);
    built(); // made before the clock runs
    benchmark::RunSpecifiedBenchmarks();
}
