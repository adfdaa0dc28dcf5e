#pragma once
#include <memory>

namespace prism {

template <auto Free> struct Release {
    template <class T> void operator()(T* p) const { Free(p); }
};
/// A thing of a C library, with the function that gives it back.
template <class T, auto Free> using Released = std::unique_ptr<T, Release<Free>>;

} // namespace prism
