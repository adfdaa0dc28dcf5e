#include "core/building/line_meets.h"

#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>

namespace prism {

LineMeets::LineMeets(const TopoDS_Shape& shape, double tolerance) {
    for (TopExp_Explorer x(shape, TopAbs_FACE); x.More(); x.Next())
        faces_.push_back(std::make_unique<IntCurvesFace_Intersector>(TopoDS::Face(x.Current()), tolerance));
}

std::vector<double> LineMeets::operator()(const gp_Lin& line, double from, double to) {
    std::vector<double> r;
    for (const auto& face : faces_) {
        face->Perform(line, from, to);
        if (!face->IsDone()) continue;
        for (int k = 1; k <= face->NbPnt(); ++k) r.push_back(face->WParameter(k));
    }
    return r;
}

std::optional<LineMeets::Place> LineMeets::first(const gp_Lin& line) {
    std::optional<Place> r;
    for (size_t i = 0; i < faces_.size(); ++i) {
        faces_[i]->Perform(line, -RealLast(), RealLast());
        if (!faces_[i]->IsDone()) continue;
        for (int k = 1; k <= faces_[i]->NbPnt(); ++k)
            if (const double at = faces_[i]->WParameter(k); !r || at < r->at) r = Place{i, at};
    }
    return r;
}

} // namespace prism
