#pragma once
#include "core/base/progress.h"
#include "core/building/kernel.h"

#include <TopoDS_Shape.hxx>
#include <functional>
#include <memory>

namespace prism {

/// Does work on a thread of its own and waits for it; whether it came to its end before a stop was asked for.
/// If not, the work is left to end by itself, and the program waits for it before it ends.
bool endedBeforeStop(const Progress& progress, std::function<void()> work);

/// A shape of its own: it shares with another nothing but curves and surfaces, which nobody changes.
TopoDS_Shape copyOf(const TopoDS_Shape& shape);

/// Does work that gives a T or a Result<T> and takes no stop token, as some calls of the modeller take none:
/// when a stop is asked for, its caller goes on at once with an error that says so (ErrorCode::cancelled).
/// As the work may outlive its caller, it holds all that it touches, and shapes as copyOf them: what else
/// is done with a shape, such as meshing it, changes it.
template <class T, class Work> Result<T> stoppable(const Progress& progress, Work work) {
    const auto result =
        std::make_shared<Result<T>>(failure(ErrorCode::cancelled, "it was stopped before it ended"));
    const bool ended = endedBeforeStop(
        progress, [result, work = std::move(work)]() mutable { *result = guarded<T>(std::move(work)); });
    if (ended) return std::move(*result);
    return failure(ErrorCode::cancelled, "it was stopped before it ended");
}

} // namespace prism
