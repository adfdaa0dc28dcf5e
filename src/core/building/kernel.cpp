#include "core/building/kernel.h"

#include <Standard_Failure.hxx>
#include <new>

namespace prism {

std::optional<Error> thrownBy(const std::function<void()>& work) {
    try {
        work();
        return std::nullopt;
    } catch (const KernelError& e) {
        return Error{ErrorCode::impossible, e.what()};
    } catch (const Standard_Failure& e) {
        const std::string why = e.GetMessageString() ? e.GetMessageString() : "";
        return Error{ErrorCode::impossible,
                     "the solid modeller could not do it" + (why.empty() ? "" : ": " + why)};
    } catch (const std::bad_alloc&) {
        return Error{ErrorCode::impossible, "there is not enough memory for this"};
    } catch (const std::exception& e) {
        return Error{ErrorCode::impossible, std::string("this could not be done: ") + e.what()};
    } catch (...) {
        return Error{ErrorCode::impossible,
                     "this could not be done, and what was in the way did not say why"};
    }
}

} // namespace prism
