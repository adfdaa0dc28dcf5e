#pragma once
#include <optional>

namespace prism {

/// Where a place on a line goes when stops on the same line are carried elsewhere: between two of them it
/// keeps its share of the way, beyond the outermost it goes along with that one. Of stops at one place the
/// first counts.
class Between {
  public:
    explicit Between(double at) : at_(at) {}

    void stop(double from, double to) {
        if (from <= at_ && (!below_ || from > below_->from)) below_ = Stop{from, to};
        if (from >= at_ && (!above_ || from < above_->from)) above_ = Stop{from, to};
    }

    double carried() const {
        if (!below_ && !above_) return at_;
        if (!below_ || !above_ || below_->from == above_->from) {
            const Stop& one = below_ ? *below_ : *above_;
            return at_ + one.to - one.from;
        }
        const double share = (at_ - below_->from) / (above_->from - below_->from);
        return (1 - share) * below_->to + share * above_->to;
    }

  private:
    struct Stop {
        double from, to;
    };
    double at_;
    std::optional<Stop> below_, above_;
};

} // namespace prism
