#pragma once
#include "core/project/document.h"

#include <nlohmann/json.hpp>

// Sheets for the tests, and small drawings written by hand.
namespace prism::test {

using Json = nlohmann::json;

/// A sheet made by an independent program, with what is true of it.
struct Sample {
    std::string name, path;
    Json truth;
    bool clean() const { return truth.at("fault").is_null(); }
    std::string fault() const { return clean() ? "" : truth["fault"]["type"].get<std::string>(); }
};

std::vector<Sample> samples();
Sample sample(const std::string& name);
std::string demo(const std::string& file);

/// Opens a file; the test fails with the message when it cannot be read.
Document opened(const std::string& path);
/// Reads a drawing from DXF text.
Drawing drawn(const std::string& dxf);

/// Roles and repairs of a drawing held by value.
inline CleanSheet clean(const Drawing& d, const LayerChoices& layers, const RepairChoices& repairs = {}) {
    return prism::clean(std::make_shared<const Drawing>(d), layers, repairs);
}

/// Writes a small DXF by hand: groups of code and value, in the order they are given.
class DxfText {
  public:
    explicit DxfText(int insunits = 4);
    DxfText& layer(const std::string& name, const std::string& lineType = "CONTINUOUS", int color = 7);
    DxfText& group(int code, const std::string& value);
    DxfText& group(int code, double value);
    /// Starts the entities; further groups go there.
    DxfText& entities();
    DxfText& block(const std::string& name, double x, double y);
    DxfText& endBlock();
    DxfText& line(double x0, double y0, double x1, double y1, const std::string& layer = "OUTLINE");
    DxfText& box(double x0, double y0, double x1, double y1, const std::string& layer = "OUTLINE");
    DxfText& circle(double x, double y, double r, const std::string& layer = "OUTLINE");
    DxfText& arc(double x, double y, double r, double fromDeg, double toDeg,
                 const std::string& layer = "OUTLINE");
    DxfText& text(double x, double y, const std::string& words);
    /// Linear dimension from (x0,y0) to (x1,y1) along `angle` degrees, its line through (lx,ly).
    DxfText& dimension(double x0, double y0, double x1, double y1, double lx, double ly, double angle,
                       const std::string& words = "");
    std::string done() const;

  private:
    void closeTables();
    std::string text_;
    int handle_ = 0x20;
    bool tables_ = true, blocks_ = false, entities_ = false;
    std::string handle();
};

/// The views of a small drawing.
ViewSet viewsOf(const DxfText& t, const ViewChoices& choices = {});

/// A fresh path in the temporary folder; what is there is removed.
std::string temporary(const std::string& name);
std::string bytesOf(const std::string& path);

} // namespace prism::test
