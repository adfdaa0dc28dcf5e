#pragma once
#include "core/base/result.h"

#include <functional>
#include <optional>
#include <stdexcept>

namespace prism {

/// Our own complaint from inside kernel work.
class KernelError : public std::runtime_error {
    using std::runtime_error::runtime_error;
};

/// Does the work and gives what was thrown in it as an error in words, whichever library threw it: the solid
/// modeller, the picture, page and archive libraries, the solvers, or the machine that is out of memory. The
/// one place where that is done; every border where outside work is done for a person goes through it.
std::optional<Error> thrownBy(const std::function<void()>& work);

/// Does work that gives a T or a Result<T>, and turns whatever it throws into an error in words.
template <class T, class Work> Result<T> guarded(Work work) {
    Result<T> r = failure(ErrorCode::impossible, "nothing was done");
    if (auto e = thrownBy([&] { r = work(); })) return tl::make_unexpected(std::move(*e));
    return r;
}

} // namespace prism
