#pragma once
#include "core/reading/dxf_file.h"

// How the records of a DXF file become a drawing: the sheet as a whole in dxf_interpret.cpp, single entities
// in dxf_entities.cpp.
namespace prism::dxf {

/// What an entity inherits from the insert it came through.
struct Context {
    Affine2 map;
    int layer = -1; ///< layer of the insert: entities on layer 0 take it
    std::string line_type = "CONTINUOUS";
    int color = 7;
    std::string path, block;
    int depth = 0;
    const Viewport* viewport = nullptr; ///< through which this is seen
};

/// A line without an end, or with one only; cut to the sheet once all else is read.
struct Endless {
    int entity;
    Vec2 from, direction;
    bool both;
};

class Interpreter {
  public:
    Interpreter(File& file, const ReadingChoices& choices, Progress& progress)
        : file_(file), choices_(choices), progress_(progress) {}

    Result<Drawing> run();

  private:
    Result<const PaperLayout*> chosenLayout();
    void readAllPapers();
    void listOthers(const std::vector<const PaperLayout*>& read);
    void viewport(const Record& r);
    void clipEndless();
    void records(std::span<const Record> list, const Context& c);
    size_t one(std::span<const Record> list, size_t i, const Context& c);
    void insert(const Record& r, const Context& c);
    void dimension(const Record& r, const Context& c);
    std::string shownText(const Record& r) const;
    void text(const Record& r, const Context& c);
    void curves(const Record& r, std::span<const Record> vertices, const Context& c);
    int layerOf(const Record& r, const Context& c);
    void style(const Record& r, const Context& c, Entity& e) const;
    void notRead(std::string_view type, const std::string& reason);
    std::string path(const Context& c, const Record& r) const;

    File& file_;
    const ReadingChoices& choices_;
    Progress& progress_;
    Drawing d_;
    std::map<std::pair<std::string, std::string>, int> not_read_;
    std::vector<Endless> endless_;
    bool stopped_ = false;
};

} // namespace prism::dxf
