#pragma once
#include <string>
#include <tl/expected.hpp>

namespace prism {

/// Why something could not be done. The code decides the batch door's exit status.
enum class ErrorCode {
    unreadable, ///< the input file cannot be read; exit status 3
    impossible, ///< the work could not be done with this input; exit status 4
    usage,      ///< the request itself is wrong; exit status 2
    cancelled   ///< a person stopped it; nothing was changed
};

/// What went wrong and where, in words for the person at the desk.
struct Error {
    ErrorCode code = ErrorCode::impossible;
    std::string message;
};

template <class T> using Result = tl::expected<T, Error>;

inline tl::unexpected<Error> failure(ErrorCode code, std::string message) {
    return tl::make_unexpected(Error{code, std::move(message)});
}

} // namespace prism
