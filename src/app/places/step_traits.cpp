#include "app/places/step_traits.h"

#include <QCoreApplication>

namespace prism::app {
namespace {

QString tr(const char* text) {
    return QCoreApplication::translate("StepEditor", text);
}

} // namespace

bool hasReach(StepKind k) {
    return k == StepKind::extrude || k == StepKind::wall || k == StepKind::slope;
}

bool hasOperation(StepKind k) {
    return hasReach(k) || k == StepKind::revolve || k == StepKind::thicken || k == StepKind::lip;
}

bool repeats(StepKind k) {
    return k == StepKind::mirror || k == StepKind::pattern;
}

bool onFaces(StepKind k) {
    return k == StepKind::shell || k == StepKind::thicken || k == StepKind::lip || k == StepKind::flange ||
           k == StepKind::tilt;
}

bool onLines(const Repetition& r) {
    return r.kind == Repetition::Kind::line || r.kind == Repetition::Kind::grid;
}

Step usualStep(StepKind k) {
    constexpr double kWall = 5, kRim = 3, kRound = 2, kPitch = 10; // mm
    Step s;
    s.kind = k;
    if (k == StepKind::hole || k == StepKind::slope || k == StepKind::facet)
        s.operation = Operation::cut, s.reach = Reach::through;
    if (k == StepKind::fillet || k == StepKind::chamfer) s.size = kRound;
    if (k == StepKind::shell || k == StepKind::wall || k == StepKind::rib) s.thickness = kWall;
    if (k == StepKind::thicken || k == StepKind::lip) s.thickness = s.size = kRim;
    if (k == StepKind::flange) s.thickness = kWall, s.size = kPitch;
    if (k == StepKind::pattern) s.repeat.pitch = kPitch;
    return s;
}

std::vector<std::pair<QString, StepNumber*>> shownNumbers(Step& s) {
    switch (s.kind) {
    case StepKind::extrude:
    case StepKind::slope:
        if (s.reach == Reach::unequal) return {{tr("Before"), &s.below}, {tr("Past"), &s.to.value}};
        return {};
    case StepKind::hole: {
        std::vector<std::pair<QString, StepNumber*>> r{{tr("Diameter"), &s.hole.diameter},
                                                       {tr("Depth"), &s.hole.depth}};
        if (s.hole.kind != HoleKind::plain && s.hole.kind != HoleKind::tapered)
            r.emplace_back(tr("Wide"), &s.hole.wide);
        if (s.hole.kind == HoleKind::counterbore || s.hole.kind == HoleKind::spot_face)
            r.emplace_back(tr("Wide depth"), &s.hole.wide_depth);
        return r;
    }
    case StepKind::fillet:
        return {{tr("Radius"), &s.size}, {tr("At the end"), &s.second_size}};
    case StepKind::chamfer:
        return {{tr("Distance"), &s.size}, {tr("Other side"), &s.second_size}};
    case StepKind::shell:
    case StepKind::thicken:
    case StepKind::rib:
        return {{tr("Thickness"), &s.thickness}};
    case StepKind::lip:
        return {{tr("Width"), &s.thickness},
                {s.operation == Operation::add ? tr("Height") : tr("Depth"), &s.size}};
    case StepKind::flange:
        return {{tr("Width"), &s.size}, {tr("Thickness"), &s.thickness}};
    case StepKind::wall:
        if (s.reach == Reach::unequal)
            return {{tr("Thickness"), &s.thickness}, {tr("Before"), &s.below}, {tr("Past"), &s.to.value}};
        return {{tr("Thickness"), &s.thickness}};
    case StepKind::pattern:
        if (s.repeat.kind == Repetition::Kind::grid)
            return {{tr("Pitch"), &s.repeat.pitch}, {tr("Pitch across"), &s.repeat.second_pitch}};
        if (s.repeat.kind == Repetition::Kind::line) return {{tr("Pitch"), &s.repeat.pitch}};
        return {};
    case StepKind::revolve:
    case StepKind::tilt:
    case StepKind::facet:
    case StepKind::mirror:
        break;
    }
    return {};
}

} // namespace prism::app
