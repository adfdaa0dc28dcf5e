#pragma once
#include "core/base/result.h"
#include "core/building/steps.h"

#include <TopoDS_Edge.hxx>
#include <TopoDS_Face.hxx>

// Edges and faces of a solid, found by what a step says of them.
namespace prism::building {

/// The edge or the face that a pick means. Impossible when none is near.
Result<TopoDS_Face> faceAt(const Figure& f, const TopoDS_Shape& solid, Vec3 drawn);
/// The edges of a choice, each once, in the modeller's order. Impossible when a pick meets none, or there are
/// none of that kind.
Result<std::vector<TopoDS_Edge>> edgesOf(const Figure& f, const TopoDS_Shape& solid, const EdgeChoice& choice,
                                         const std::vector<TopoDS_Face>& of_step);
/// "the edge at 10, 0, 25": where the middle of an edge lies.
std::string inWords(const TopoDS_Edge& e);

} // namespace prism::building
