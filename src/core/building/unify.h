#pragma once
#include <BRepTools_History.hxx>
#include <TopoDS_Shape.hxx>

namespace prism::building {

/// Makes one face of neighbouring faces on one surface, and one edge of edges in one line. What became of
/// what is added to `history`.
TopoDS_Shape unified(const TopoDS_Shape& shape, const Handle(BRepTools_History) & history);

} // namespace prism::building
