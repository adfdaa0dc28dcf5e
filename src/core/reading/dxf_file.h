#pragma once
#include "core/base/progress.h"
#include "core/drawing/drawing.h"
#include "core/reading/dxf_tags.h"
#include "core/reading/reading_choices.h"

#include <span>
#include <unordered_map>

// The structure of a DXF file: sections, tables, blocks and entity records, turned into a Drawing.
// Source: the published DXF reference (group codes).
namespace prism::dxf {

/// One entity, table entry or block head: its type and its groups.
struct Record {
    std::string_view type;
    std::span<const Tag> tags;

    const Tag* find(int code) const;
    double number(int code, double otherwise = 0) const;
    int integer(int code, int otherwise = 0) const;
    std::string_view text(int code) const;
    bool has(int code) const { return find(code) != nullptr; }
    /// x under `code`, y under `code + 10`.
    Vec2 point(int code) const;
};

struct Block {
    std::string name;
    Vec2 base;
    std::vector<Record> records;
};

/// Formatting and scaling values of a dimension style.
struct DimensionStyle {
    double factor = 1, rounding = 0, plus = 0, minus = 0, text_height = 2.5, arrow_size = 2.5, scale = 1;
    int decimals = 2, angular_decimals = -1, ///< angular ones below zero: as many as for lengths
        zero_suppression = 8, separator = '.',
        unit_format = 2; ///< 2 decimal, 3 engineering, 4 feet and inches with fractions, 5 fractions
    bool tolerance = false, limits = false;
    std::string post; ///< text before and after, with <> for the number
    /// Applies one override (group code of the DIMSTYLE table and its value).
    void set(int code, std::string_view value);
};

/// One paper layout: its name and what is drawn on the paper itself, viewports included.
struct PaperLayout {
    std::string name;
    std::vector<Record> records;
};

struct File {
    std::string version;
    std::map<std::string, std::vector<Tag>, std::less<>> header;
    std::vector<Layer> layers;
    std::unordered_map<std::string, int> layer_index;
    std::vector<LineType> line_types;
    std::unordered_map<std::string, DimensionStyle> styles;
    std::unordered_map<std::string, Block> blocks;
    std::vector<Record> model;
    std::vector<PaperLayout> papers;
    std::unordered_map<std::string, int> layer_by_handle;
};

/// Sorts the groups into sections, tables and blocks.
File structure(std::span<const Tag> tags);

/// The flattened drawing of the layout asked for; see ReadingChoices. Cancelled only when the progress says
/// so.
Result<Drawing> interpret(std::span<const Tag> tags, const ReadingChoices& choices, Progress& progress);

/// What a viewport shows: model coordinates onto the paper, and the window they are seen through.
struct Viewport {
    Affine2 map;
    Box2 window;             ///< on the paper
    std::vector<int> frozen; ///< layers not shown
    std::string trouble;     ///< why it cannot be shown; empty when it can
};
/// Whether a VIEWPORT record is one that shows something: not the paper itself, and switched on.
bool showsModel(const Record& r);
Viewport viewportOf(const Record& r, const File& file);
/// The parts of a curve within a box.
std::vector<Curve> clipped(const Curve& c, const Box2& window);

std::string upper(std::string_view s);

/// Curves of a record in its own coordinate system turned into the world's; empty when the kind is not known.
/// `vertices` holds the VERTEX records of an old-style POLYLINE.
std::vector<Curve> curvesOf(const Record& r, std::span<const Record> vertices);
/// The plane of an entity given by its extrusion direction (arbitrary axis algorithm), as a map onto world x
/// and y.
Affine2 planeOf(const Record& r);
/// Curves of a simple kind lie in the entity's plane; lines, ellipses and splines are in world coordinates.
bool liesInOwnPlane(std::string_view type);

/// Boundaries of a HATCH.
std::vector<Curve> hatchBoundaries(const Record& r);
/// Lines of a LEADER or MULTILEADER.
std::vector<Curve> leaderLines(const Record& r);
/// Parallel lines of an MLINE.
std::vector<Curve> parallelLines(const Record& r);
/// Whether numbers of knots, poles and degree fit together.
bool soundSpline(const Spline& s);

SheetText textOf(const Record& r);
Dimension dimensionOf(const Record& r, const File& file);

} // namespace prism::dxf
