#pragma once
#include "core/base/result.h"

#include <Standard_Failure.hxx>
#include <stdexcept>

namespace prism {

/// Our own complaint from inside kernel work.
class KernelError : public std::runtime_error {
    using std::runtime_error::runtime_error;
};

/// Runs kernel work and turns whatever it throws into an error in words. The one place where that is done.
template <class T, class Work> Result<T> guarded(Work work) {
    try {
        return work();
    } catch (const KernelError& e) {
        return failure(ErrorCode::impossible, e.what());
    } catch (const Standard_Failure& e) {
        const std::string why = e.GetMessageString() ? e.GetMessageString() : "";
        return failure(ErrorCode::impossible,
                       "the solid modeller could not do it" + (why.empty() ? "" : ": " + why));
    }
}

} // namespace prism
