#pragma once
#include <string_view>

namespace prism {

/// How long work tells where it is and asks whether to go on. Called from the thread that does the work.
class Progress {
  public:
    virtual ~Progress() = default;
    /// fraction in [0, 1] of the whole task; what it is doing, in words.
    virtual void report(double fraction, std::string_view what) = 0;
    virtual bool cancelled() const = 0;
};

/// For callers that neither watch nor stop.
class NoProgress final : public Progress {
  public:
    void report(double, std::string_view) override {}
    bool cancelled() const override { return false; }
};

} // namespace prism
