#pragma once
#include "core/building/solid_parts.h"
#include "core/project/model.h"

// From the faces, edges and corners of the solid to the lines, numbers and steps that they come from, and
// back.
namespace prism {

/// Lines of the drawing that a part of the solid comes from: those that a face was swept from, or that stand
/// where an end was picked; of an edge or a corner those of the faces that meet there.
std::set<int> linesOf(const Model& m, SolidPart p);
/// Dimensions of the sheet that set it: those whose number one of these lines carries.
std::set<int> numbersOf(const Model& m, SolidPart p);
/// Faces that come from any of the lines.
std::set<int> facesOfLines(const Model& m, const std::set<int>& lines);
/// Faces that a step made.
std::set<int> facesOfStep(const Model& m, int step);

/// The faces that steps made when they could be made last, by name.
using LastForms = std::map<std::string, TopoDS_Shape>;
/// Of the steps that fail in a model: as the model before it had them, or what was kept of them since.
LastForms lastForms(const Model& now, const Model& before, const LastForms& kept);
/// All of them as one shape; null for none.
TopoDS_Shape asOne(const LastForms& forms);

/// How two parts of the solid lie to each other.
struct PartMeasure {
    double nearest = 0;          ///< mm between their nearest places
    std::optional<double> angle; ///< between planes, axes and straight edges; radians, at most a right angle
    std::optional<double>
        apart; ///< mm between what is parallel, or from a corner to what carries the other: square to it
};
/// None when one of them is not there.
std::optional<PartMeasure> measureBetween(const Model& m, SolidPart a, SolidPart b);
/// "40 mm apart, at 0°", with what a person would want to read.
std::string inWords(const PartMeasure& m);

/// A part in words: its kind and size, and for a face its step and the line that it comes from.
std::string describe(const Model& m, SolidPart p);
/// The same for a table: what it is, its size, and where it comes from.
struct PartRow {
    SolidPart part;
    std::string kind, size, from;
};
std::vector<PartRow> rowsOf(const Model& m, SolidPart::Kind kind);

} // namespace prism
