#include "core/reading/dxf_file.h"

namespace prism::dxf {

const Tag* Record::find(int code) const {
    for (const Tag& t : tags) {
        if (t.code >= 1000) break; // extended data has codes of its own
        if (t.code == code) return &t;
    }
    return nullptr;
}

double Record::number(int code, double otherwise) const {
    const Tag* t = find(code);
    return t ? toNumber(t->value) : otherwise;
}

int Record::integer(int code, int otherwise) const {
    const Tag* t = find(code);
    return t ? toInteger(t->value) : otherwise;
}

std::string_view Record::text(int code) const {
    const Tag* t = find(code);
    return t ? t->value : std::string_view{};
}

Vec2 Record::point(int code) const {
    return {number(code), number(code + 10)};
}

std::string upper(std::string_view s) {
    std::string r(s);
    for (char& c : r) c = static_cast<char>(std::toupper(static_cast<unsigned char>(c)));
    return r;
}

void DimensionStyle::set(int code, std::string_view value) {
    switch (code) {
    case 3:
        post = std::string(value);
        break;
    case 40:
        scale = toNumber(value);
        break;
    case 41:
        arrow_size = toNumber(value);
        break;
    case 45:
        rounding = toNumber(value);
        break;
    case 47:
        plus = toNumber(value);
        break;
    case 48:
        minus = toNumber(value);
        break;
    case 71:
        tolerance = toInteger(value) != 0;
        break;
    case 72:
        limits = toInteger(value) != 0;
        break;
    case 78:
        zero_suppression = toInteger(value);
        break;
    case 140:
        text_height = toNumber(value);
        break;
    case 144:
        factor = toNumber(value);
        break;
    case 179:
        angular_decimals = std::clamp(toInteger(value), -1, 12);
        break;
    case 271:
        decimals = std::clamp(toInteger(value), 0, 12);
        break;
    case 270: // releases up to 14
    case 277:
        unit_format = toInteger(value);
        break;
    case 278:
        separator = toInteger(value);
        break;
    default:
        break;
    }
}

namespace {

/// Records from `from` up to the group 0 whose value is in `ends`; returns the index of that group.
size_t collect(std::span<const Tag> tags, size_t from, std::initializer_list<std::string_view> ends,
               std::vector<Record>& out) {
    size_t i = from;
    while (i < tags.size() && tags[i].code != 0) ++i;
    while (i < tags.size()) {
        for (std::string_view e : ends)
            if (tags[i].value == e) return i;
        size_t j = i + 1;
        while (j < tags.size() && tags[j].code != 0) ++j;
        out.push_back({tags[i].value, tags.subspan(i + 1, j - i - 1)});
        i = j;
    }
    return i;
}

using Names = std::unordered_map<std::string, std::string>;

void readHeader(std::span<const Tag> tags, File& f) {
    std::vector<Tag>* current = nullptr;
    for (const Tag& t : tags) {
        if (t.code == 9)
            current = &f.header[std::string(t.value)];
        else if (current)
            current->push_back(t);
    }
    if (auto it = f.header.find("$ACADVER"); it != f.header.end() && !it->second.empty())
        f.version = std::string(it->second.front().value);
    while (!f.version.empty() && f.version.back() == ' ') f.version.pop_back();
}

void readLayer(const Record& r, File& f) {
    Layer l;
    f.layer_by_handle.emplace(r.text(5), static_cast<int>(f.layers.size()));
    l.name = std::string(r.text(2));
    l.line_type = upper(r.text(6));
    if (l.line_type.empty()) l.line_type = "CONTINUOUS";
    const int color = r.integer(62, 7);
    l.color = std::abs(color);
    l.visible = color >= 0 && (r.integer(70) & 1) == 0; // negative colour: off; flag 1: frozen
    if (f.layer_index.emplace(l.name, static_cast<int>(f.layers.size())).second) f.layers.push_back(l);
}

void readLineType(const Record& r, File& f) {
    LineType t;
    t.name = upper(r.text(2));
    t.description = std::string(r.text(3));
    for (const Tag& tag : r.tags)
        if (tag.code == 49) t.pattern.push_back(toNumber(tag.value));
    f.line_types.push_back(std::move(t));
}

void readTables(std::span<const Tag> tags, File& f, Names& blockByHandle) {
    std::vector<Record> records;
    collect(tags, 0, {}, records);
    for (const Record& r : records) {
        if (r.type == "BLOCK_RECORD")
            blockByHandle.emplace(r.text(5), upper(r.text(2)));
        else if (r.type == "LAYER")
            readLayer(r, f);
        else if (r.type == "LTYPE")
            readLineType(r, f);
        else if (r.type == "DIMSTYLE") {
            DimensionStyle s;
            for (const Tag& t : r.tags)
                if (t.code < 1000) s.set(t.code, t.value);
            f.styles[upper(r.text(2))] = s;
        }
    }
}

void readBlocks(std::span<const Tag> tags, File& f) {
    size_t i = 0;
    while (i < tags.size()) {
        if (tags[i].code != 0 || tags[i].value != "BLOCK") {
            ++i;
            continue;
        }
        size_t head = i + 1;
        while (head < tags.size() && tags[head].code != 0) ++head;
        const Record r{"BLOCK", tags.subspan(i + 1, head - i - 1)};
        Block b;
        b.name = std::string(r.text(2));
        b.base = r.point(10);
        i = collect(tags, head, {"ENDBLK", "BLOCK"}, b.records);
        f.blocks[upper(b.name)] = std::move(b);
    }
}

/// Names of the paper layouts by the name of their block.
Names layoutNames(std::span<const Tag> tags, const Names& blockByHandle) {
    Names names;
    std::vector<Record> records;
    collect(tags, 0, {}, records);
    for (const Record& r : records) {
        if (r.type != "LAYOUT") continue;
        std::string name;
        bool own = false; // plot settings, with codes of the same numbers, come first
        for (const Tag& t : r.tags) {
            if (t.code == 100) own = t.value == "AcDbLayout";
            if (!own) continue;
            if (t.code == 1) name = std::string(t.value);
            if (t.code != 330) continue;
            if (const auto b = blockByHandle.find(std::string(t.value)); b != blockByHandle.end())
                names[b->second] = name;
        }
    }
    return names;
}

/// Blocks that hold paper layouts are named so by the format (DXF reference, "BLOCKS Section"): the active
/// one plainly, the others with a number behind.
constexpr std::string_view kPaperBlock = "*PAPER_SPACE";

/// The active paper layout stands among the entities, marked by group 67; the others are blocks.
void sortLayouts(std::vector<Record>&& entities, const Names& names, File& f) {
    PaperLayout active;
    bool onPaper = false;
    for (Record& r : entities) {
        const bool part = r.type == "VERTEX" || r.type == "ATTRIB" || r.type == "SEQEND";
        if (!part) onPaper = r.integer(67) == 1;
        (onPaper ? active.records : f.model).push_back(r);
    }
    auto named = [&](const std::string& block, const std::string& otherwise) {
        const auto it = names.find(block);
        return it == names.end() || it->second.empty() ? otherwise : it->second;
    };
    if (const std::string plain(kPaperBlock); !active.records.empty() || names.contains(plain)) {
        active.name = named(plain, "Layout");
        f.papers.push_back(std::move(active));
    }
    std::map<std::string, const Block*> others; // sorted, so that the order does not hang on hashing
    for (const auto& [key, b] : f.blocks)
        if (key.starts_with(kPaperBlock) && key.size() > kPaperBlock.size()) others[key] = &b;
    for (const auto& [key, b] : others)
        f.papers.push_back({named(key, "Layout " + std::to_string(f.papers.size() + 1)), b->records});
}

} // namespace

File structure(std::span<const Tag> tags) {
    File f;
    Names blockByHandle, names;
    std::vector<Record> entities;
    size_t i = 0;
    while (i + 1 < tags.size()) {
        if (tags[i].code != 0 || tags[i].value != "SECTION") {
            ++i;
            continue;
        }
        const std::string_view name = tags[i + 1].value;
        size_t end = i + 2;
        while (end < tags.size() && !(tags[end].code == 0 && tags[end].value == "ENDSEC")) ++end;
        const auto body = tags.subspan(i + 2, end - i - 2);
        if (name == "HEADER")
            readHeader(body, f);
        else if (name == "TABLES")
            readTables(body, f, blockByHandle);
        else if (name == "BLOCKS")
            readBlocks(body, f);
        else if (name == "ENTITIES")
            collect(body, 0, {}, entities);
        else if (name == "OBJECTS")
            names = layoutNames(body, blockByHandle);
        i = end;
    }
    sortLayouts(std::move(entities), names, f);
    return f;
}

} // namespace prism::dxf
