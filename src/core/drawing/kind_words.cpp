#include "core/drawing/kind_words.h"

#include <map>

namespace prism {

std::string inWords(const std::string& type) {
    static const std::map<std::string, const char*> words{{"LINE", "line"},
                                                          {"line", "line"},
                                                          {"ARC", "arc"},
                                                          {"CIRCLE", "circle"},
                                                          {"ELLIPSE", "ellipse"},
                                                          {"SPLINE", "free curve"},
                                                          {"POINT", "point"},
                                                          {"LWPOLYLINE", "chain of lines"},
                                                          {"POLYLINE", "chain of lines"},
                                                          {"polyline", "chain of lines"},
                                                          {"polygon", "closed chain of lines"},
                                                          {"path", "drawn path"},
                                                          {"rect", "rectangle"},
                                                          {"MLINE", "lines drawn side by side"},
                                                          {"XLINE", "line without ends"},
                                                          {"RAY", "line with one end"},
                                                          {"HATCH", "hatching"},
                                                          {"SOLID", "filled area"},
                                                          {"TRACE", "filled strip"},
                                                          {"3DFACE", "face in space"},
                                                          {"LEADER", "leader"},
                                                          {"MULTILEADER", "note with leader"},
                                                          {"TEXT", "text"},
                                                          {"MTEXT", "text"},
                                                          {"ATTRIB", "text of a symbol"},
                                                          {"ATTDEF", "text pattern of a symbol"},
                                                          {"INSERT", "symbol"},
                                                          {"use", "symbol"},
                                                          {"DIMENSION", "dimension"},
                                                          {"TOLERANCE", "tolerance frame"},
                                                          {"VIEWPORT", "window onto the drawing"},
                                                          {"IMAGE", "picture"},
                                                          {"image", "picture"},
                                                          {"3DSOLID", "solid in a closed format"},
                                                          {"BODY", "solid in a closed format"},
                                                          {"REGION", "area in a closed format"},
                                                          {"ACAD_TABLE", "table"}};
    const auto it = words.find(type);
    if (it != words.end()) return it->second;
    std::string small;
    for (const char c : type)
        small += c >= 'A' && c <= 'Z' ? static_cast<char>(c - 'A' + 'a') : c == '_' ? ' ' : c;
    return small;
}

} // namespace prism
