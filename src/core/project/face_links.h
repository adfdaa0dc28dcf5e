#pragma once
#include "core/project/model.h"

// From the faces of the solid to the lines, numbers and steps that they come from, and back.
namespace prism {

/// Lines of the drawing that a face was swept from. Faces are numbered in the modeller's order.
std::set<int> linesOfFace(const Model& m, int face);
/// Dimensions of the sheet that set a face: those whose number one of its lines carries.
std::set<int> numbersOfFace(const Model& m, int face);
/// Faces that were swept from any of the lines.
std::set<int> facesOfLines(const Model& m, const std::set<int>& lines);
/// Faces that a step made.
std::set<int> facesOfStep(const Model& m, int step);

/// A face in words: its kind and size, its step, and the line that it comes from.
std::string describeFace(const Model& m, int face);

} // namespace prism
