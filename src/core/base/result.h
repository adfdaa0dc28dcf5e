#pragma once
#include <string>
#include <tl/expected.hpp>

namespace prism {

/// Why something could not be done.
enum class ErrorCode {
    unreadable, ///< the input file cannot be read
    impossible, ///< the work could not be done with this input
    usage,      ///< the request itself is wrong
    conflict,   ///< the file to be written is no longer what it was thought to be; nothing was written
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
