#pragma once
#include "core/base/progress.h"
#include "core/building/face_names.h"
#include "core/building/steps.h"

// The solid while it is being made.
namespace prism::building {

/// Bodies whose union is the solid. They are joined only when the whole is asked for, since a small body is
/// cut in a fraction of the time that the whole takes: (A + B) - T = (A - T) + (B - T).
class Parts {
  public:
    /// `size` of the part, mm: tolerances are shares of it.
    explicit Parts(double size) : size_(size) {}
    bool empty() const { return bodies_.empty(); }
    /// The solids within one tool must not touch. Throws KernelError when the bodies cannot be combined at
    /// any tolerance, or when it is stopped, which the modeller asks for all along.
    void apply(Operation o, const std::vector<TopoDS_Shape>& tools, const FaceNames& names,
               const Progress& progress);
    /// One solid of all bodies, with faces that go on in each other made one. Null when there are none.
    /// Throws likewise.
    TopoDS_Shape whole(const Progress& progress);
    /// The same as whole() left it; null when it could not be joined.
    TopoDS_Shape settled() const { return settled_ ? bodies_.front() : TopoDS_Shape(); }
    /// The solid is now another one, whose faces have been named.
    void replace(const TopoDS_Shape& whole);
    FaceNames& names() { return names_; }
    /// The tolerance that the modeller needed beyond its own, mm; zero mostly.
    double loosened() const { return loosened_; }

  private:
    template <class Algorithm>
    TopoDS_Shape combined(const TopoDS_Shape& base, const std::vector<TopoDS_Shape>& tools,
                          const Progress& progress);
    void cut(const std::vector<TopoDS_Shape>& tools, const Progress& progress);
    void dropEmpty();

    double size_, loosened_ = 0;
    std::vector<TopoDS_Shape> bodies_;
    bool settled_ = false; ///< the one body is whole already
    FaceNames names_;
};

} // namespace prism::building
