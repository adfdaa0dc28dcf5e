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

/// How two faces lie to each other.
struct FaceMeasure {
    double nearest = 0; ///< mm between their nearest places
    std::optional<double>
        angle; ///< between planes, axes, or a plane and an axis; radians, at most a right angle
    std::optional<double>
        apart; ///< mm between parallel planes, parallel axes, or a plane and an axis along it
};
/// None when one of them is not there.
std::optional<FaceMeasure> measureBetween(const Model& m, int a, int b);
/// "40 mm apart, at 0°", with what a person would want to read.
std::string inWords(const FaceMeasure& m);

/// A face in words: its kind and size, its step, and the line that it comes from.
std::string describeFace(const Model& m, int face);

} // namespace prism
