#include "core/reading/svg_path.h"

#include <cctype>
#include <charconv>
#include <utility>

namespace prism::svg {
namespace {

/// Takes commands and numbers off the front of path data.
class Scanner {
  public:
    explicit Scanner(std::string_view s) : s_(s) {}
    bool atEnd() {
        skip();
        return s_.empty();
    }
    bool atNumber() {
        skip();
        return !s_.empty() && (std::isdigit(static_cast<unsigned char>(s_[0])) || s_[0] == '-' ||
                               s_[0] == '+' || s_[0] == '.');
    }
    char command() {
        skip();
        const char c = s_.empty() ? '\0' : s_[0];
        if (c) s_.remove_prefix(1);
        return c;
    }
    double number() {
        skip();
        if (!s_.empty() && s_[0] == '+') s_.remove_prefix(1);
        double v = 0;
        const auto r = std::from_chars(s_.data(), s_.data() + s_.size(), v);
        if (r.ec != std::errc{} || !std::isfinite(v)) {
            sound_ = false;
            return 0;
        }
        s_.remove_prefix(static_cast<size_t>(r.ptr - s_.data()));
        return v;
    }
    /// Arc flags may stand without a separator.
    bool flag() {
        skip();
        if (s_.empty() || (s_[0] != '0' && s_[0] != '1')) return sound_ = false;
        const bool on = s_[0] == '1';
        s_.remove_prefix(1);
        return on;
    }
    bool sound() const { return sound_; }

  private:
    void skip() {
        while (!s_.empty() && (std::isspace(static_cast<unsigned char>(s_[0])) || s_[0] == ','))
            s_.remove_prefix(1);
    }
    std::string_view s_;
    bool sound_ = true;
};

Spline bezier(std::vector<Vec2> poles) {
    Spline s;
    s.degree = static_cast<int>(poles.size()) - 1;
    s.knots.assign(poles.size(), 0.0);
    s.knots.insert(s.knots.end(), poles.size(), 1.0);
    s.poles = std::move(poles);
    return s;
}

class Path {
  public:
    explicit Path(std::string_view data) : in_(data) {}

    std::vector<Run> runs() {
        char command = 0;
        while (!in_.atEnd() && in_.sound()) {
            if (!in_.atNumber()) {
                command = in_.command();
                if (!std::isalpha(static_cast<unsigned char>(command)) ||
                    (command != 'M' && command != 'm' && !started_))
                    break;
            } else if (command == 'M')
                command = 'L'; // further pairs after a move are lines
            else if (command == 'm')
                command = 'l';
            else if (command == 'Z' || command == 'z' || command == 0)
                break;
            if (!step(command)) break;
        }
        finish(false);
        return std::move(runs_);
    }

  private:
    Vec2 point(bool relative) {
        const double x = in_.number(), y = in_.number();
        return relative ? at_ + Vec2{x, y} : Vec2{x, y};
    }
    void line(Vec2 to) {
        if (in_.sound() && !(to == at_)) run_.curves.push_back(Segment{at_, to});
        at_ = handle_ = to;
    }
    void curve(std::vector<Vec2> poles) {
        const Vec2 handle = poles[poles.size() - 2], end = poles.back();
        if (in_.sound()) run_.curves.push_back(bezier(std::move(poles)));
        handle_ = handle;
        at_ = end;
    }
    void finish(bool closed) {
        run_.closed = closed;
        if (!run_.curves.empty()) runs_.push_back(std::move(run_));
        run_ = {};
    }

    bool step(char c) {
        const bool relative = std::islower(static_cast<unsigned char>(c));
        const char before =
            std::exchange(last_, static_cast<char>(std::toupper(static_cast<unsigned char>(c))));
        const Vec2 mirrored = at_ * 2 - handle_;
        switch (last_) {
        case 'M':
            finish(false);
            at_ = handle_ = start_ = point(relative);
            started_ = true;
            return true;
        case 'L':
            line(point(relative));
            return true;
        case 'H':
            line({in_.number() + (relative ? at_.x : 0), at_.y});
            return true;
        case 'V':
            line({at_.x, in_.number() + (relative ? at_.y : 0)});
            return true;
        case 'C': {
            const Vec2 a = point(relative), b = point(relative), to = point(relative);
            curve({at_, a, b, to});
            return true;
        }
        case 'S': {
            const Vec2 a = before == 'C' || before == 'S' ? mirrored : at_, b = point(relative),
                       to = point(relative);
            curve({at_, a, b, to});
            return true;
        }
        case 'Q': {
            const Vec2 a = point(relative), to = point(relative);
            curve({at_, a, to});
            return true;
        }
        case 'T': {
            const Vec2 a = before == 'Q' || before == 'T' ? mirrored : at_, to = point(relative);
            curve({at_, a, to});
            return true;
        }
        case 'A':
            arc(relative);
            return true;
        case 'Z':
            line(start_);
            finish(true);
            return true;
        default:
            return false;
        }
    }

    void arc(bool relative) {
        const double rx = in_.number(), ry = in_.number(), turn = in_.number() * kPi / 180;
        const bool large = in_.flag(), positive = in_.flag();
        const Vec2 to = point(relative);
        if (in_.sound() && !(to == at_))
            run_.curves.push_back(arcTo(at_, to, {rx, ry}, turn, large, positive));
        at_ = handle_ = to;
    }

    Scanner in_;
    std::vector<Run> runs_;
    Run run_;
    Vec2 at_, start_, handle_;
    char last_ = 0;
    bool started_ = false;
};

} // namespace

std::vector<double> numbersIn(std::string_view s) {
    Scanner in(s);
    std::vector<double> r;
    while (in.atNumber()) {
        const double v = in.number();
        if (!in.sound()) break;
        r.push_back(v);
    }
    return r;
}

std::vector<Run> pathRuns(std::string_view data) {
    return Path(data).runs();
}

Curve arcTo(Vec2 p, Vec2 q, Vec2 radii, double turn, bool large, bool positive) {
    double rx = std::abs(radii.x), ry = std::abs(radii.y);
    if (rx == 0 || ry == 0) return Segment{p, q};
    const Affine2 back = Affine2::rotation(-turn);
    const Vec2 h = back.linear((p - q) * 0.5);
    const double tight = h.x * h.x / (rx * rx) + h.y * h.y / (ry * ry);
    if (tight > 1)
        rx *= std::sqrt(tight), ry *= std::sqrt(tight); // too small to reach: grown as the standard says
    const double d = rx * rx * h.y * h.y + ry * ry * h.x * h.x;
    const double k = (large == positive ? -1 : 1) * std::sqrt(std::max(0.0, (rx * rx * ry * ry - d) / d));
    const Vec2 c{k * rx * h.y / ry, -k * ry * h.x / rx};
    const Vec2 centre = Affine2::rotation(turn).linear(c) + (p + q) * 0.5;
    const double from = std::atan2((h.y - c.y) / ry, (h.x - c.x) / rx),
                 to = std::atan2((-h.y - c.y) / ry, (-h.x - c.x) / rx);
    double sweep = to - from;
    if (positive && sweep < 0) sweep += 2 * kPi;
    if (!positive && sweep > 0) sweep -= 2 * kPi;
    if (std::abs(rx - ry) <= 1e-9 * rx) return Arc{centre, rx, from + turn, sweep};
    return EllipseArc{centre, direction(turn) * rx, ry / rx, from, sweep};
}

} // namespace prism::svg
