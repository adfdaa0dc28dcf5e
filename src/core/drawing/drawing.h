#pragma once
#include "core/base/curve.h"
#include "core/drawing/picture.h"

#include <map>
#include <optional>
#include <string>
#include <vector>

// The sheet as read. Never changed after reading. Coordinates are sheet units as in the file.
namespace prism {

/// What the lines of a layer or entity stand for on the sheet.
enum class LineRole { outline, hidden, centre, dimension, hatch, border, construction, note, unknown };
const char* nameOf(LineRole r);
std::optional<LineRole> lineRoleNamed(const std::string& name);

struct Layer {
    std::string name;
    std::string line_type = "CONTINUOUS";
    int color = 7; ///< colour index of the file, 1 to 255
    bool visible = true;
    /// What the reader knows of its role, and from what; unknown for formats whose layers have names of their
    /// own.
    std::pair<LineRole, std::string> hint{LineRole::unknown, ""};
};

struct LineType {
    std::string name, description;
    std::vector<double> pattern; ///< dash (+), gap (-), dot (0), in sheet units before the line type scale
};

/// One drawn thing, flattened out of its blocks into sheet coordinates.
struct Entity {
    int id = 0;                ///< index in Drawing::entities
    std::string type;          ///< as the file calls it: LINE, ARC, LWPOLYLINE ...
    std::string handle;        ///< as in the file; empty when the file has none
    std::string block_path;    ///< handles of the inserts it came through, outermost first, joined by '/'
    std::string block;         ///< name of the innermost block it came from, empty for the drawing itself
    int layer = 0;             ///< index in Drawing::layers
    std::string line_type;     ///< resolved: never BYLAYER or BYBLOCK; upper case
    int color = 7;             ///< resolved likewise
    std::vector<Curve> curves; ///< one for most kinds, one a span for polylines
    std::optional<Vec2> point; ///< for POINT
};

struct SheetText {
    std::string handle;
    int layer = 0;
    Vec2 position;                     ///< insertion or alignment point
    double height = 2.5, rotation = 0; ///< sheet units; radians
    int halign = 0;                    ///< -1 left, 0 centre, 1 right of the position
    int valign = 0;                    ///< -1 below baseline corner (position is the bottom), 0 middle, 1 top
    std::string content;               ///< decoded to UTF-8, control codes resolved, lines separated by '\n'
};

enum class DimensionKind { linear, aligned, radius, diameter, angular, ordinate };
const char* nameOf(DimensionKind k);

/// A DIMENSION as in the file with what its text says.
struct Dimension {
    int id = 0; ///< index in Drawing::dimensions
    std::string handle, style, block_path;
    int layer = 0;
    DimensionKind kind = DimensionKind::linear;
    /// Definition points (group codes 10, 13, 14, 15, 16). Linear and aligned: 13 and 14 are measured, 10
    /// lies on the dimension line. Radius: 10 centre, 15 on the arc. Diameter: 10 and 15 opposite on the
    /// circle. Angular: two lines 13-14 and 15-10, or three points 13, 14 round the vertex 15. Ordinate: 13
    /// measured, 14 leader end.
    Vec2 p10, p13, p14, p15, p16;
    bool three_point = false; ///< angular by vertex
    bool ordinate_x = false;
    double angle = 0; ///< direction of a linear dimension's line, radians
    Vec2 text_at;
    double text_height = 2.5, arrow_size = 2.5;
    double factor = 1;          ///< linear factor of the style or its override
    std::string text_field;     ///< as in the file: "", "<>", "6x <>" ...
    std::string text;           ///< as shown
    double measured = 0;        ///< from the definition points, times the factor; degrees for angles
    double value = 0;           ///< what the text says; equal to measured when the text is the measurement
    int count = 1;              ///< 6 for "6x"
    double plus = 0, minus = 0; ///< tolerances, both as magnitudes
    bool has_tolerance = false;
    bool overridden = false; ///< the text is not the plain measurement
    bool reference = false;  ///< in parentheses: reports only
    bool added = false;      ///< by hand, not on the sheet
};

struct NotRead {
    std::string type;
    int count = 0;
    std::string reason;
};

struct Drawing {
    std::string format, version; ///< "DXF", "AC1015" ...
    int unit_code = 0;           ///< $INSUNITS; 0 when not declared
    double resolution =
        0; ///< the file's coordinates are rounded to multiples of this, sheet units; 0: not known to be
    bool on_paper = false; ///< a page or a scan: coordinates are mm of paper, whatever its dimensions are in
    std::optional<bool> metric; ///< $MEASUREMENT, when the head has it
    double line_type_scale = 1;
    std::vector<std::string> layouts; ///< what there is to choose from: "Model" and paper layouts, or pages
    std::string layout;               ///< the one read
    std::vector<Layer> layers;
    std::vector<LineType> line_types;
    std::vector<Entity> entities;
    std::vector<SheetText> texts;
    std::vector<Dimension> dimensions;
    std::vector<Picture> pictures;
    std::map<std::string, int>
        counts; ///< entities of the drawing itself by type as in the file, not flattened
    std::vector<NotRead> not_read;

    Box2 box() const;
    const LineType* lineType(const std::string& name) const;
};

/// The extent of nearly all of a drawing: what lies farther out than several times the size of the rest, a
/// stray line a kilometre away, does not count.
Box2 extentOf(const Drawing& d);

/// Decodes what a text field may hold: %%c %%d %%p, \U+XXXX, and for MTEXT the formatting codes.
std::string plainText(const std::string& raw, bool formatted);

/// Reads the numbers out of a dimension's shown text: value, count, tolerance, parentheses.
/// A text without a number leaves the value at the measurement.
void readDimensionText(Dimension& d);

} // namespace prism
