#include "core/building/face_names.h"

#include <TopExp.hxx>
#include <TopTools_IndexedMapOfShape.hxx>
#include <algorithm>

namespace prism {

void FaceNames::add(const TopoDS_Shape& face, FaceName name) {
    if (!names_.IsBound(face)) names_.Bind(face, {});
    std::vector<FaceName>& all = names_.ChangeFind(face);
    if (const auto at = std::ranges::lower_bound(all, name); at == all.end() || *at != name)
        all.insert(at, name);
}

std::vector<FaceName> FaceNames::of(const TopoDS_Shape& face) const {
    const std::vector<FaceName>* all = names_.Seek(face);
    return all ? *all : std::vector<FaceName>{};
}

void FaceNames::take(const FaceNames& other) {
    for (NCollection_DataMap<TopoDS_Shape, std::vector<FaceName>, TopTools_ShapeMapHasher>::Iterator i(
             other.names_);
         i.More(); i.Next())
        for (const FaceName& n : i.Value()) add(i.Key(), n);
}

std::vector<TopoDS_Shape> FaceNames::facesOf(const TopoDS_Shape& shape) {
    TopTools_IndexedMapOfShape faces;
    TopExp::MapShapes(shape, TopAbs_FACE, faces);
    return {faces.cbegin(), faces.cend()};
}

std::vector<std::vector<FaceName>> FaceNames::ofAll(const TopoDS_Shape& shape) const {
    std::vector<std::vector<FaceName>> r;
    for (const TopoDS_Shape& face : facesOf(shape)) r.push_back(of(face));
    return r;
}

} // namespace prism
