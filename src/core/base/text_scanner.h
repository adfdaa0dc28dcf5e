#pragma once
#include <optional>
#include <string>
#include <string_view>

namespace prism {

/// Takes numbers and words off the front of a text, from left to right. Linear in the length of the text,
/// never throws, knows no locale: a decimal point and a decimal comma mean the same. The one place where
/// numbers that people wrote are read.
class TextScanner {
  public:
    /// Longer texts than this carry no number that anybody wrote; what lies beyond is not looked at.
    static constexpr size_t kLongest = 2000;

    explicit TextScanner(std::string_view text) : text_(text.substr(0, kLongest)) {}

    bool atEnd() const { return at_ >= text_.size(); }
    size_t position() const { return at_; }
    void moveTo(size_t position) { at_ = position < text_.size() ? position : text_.size(); }
    /// The next character; '\0' at the end.
    char peek() const { return atEnd() ? '\0' : text_[at_]; }
    bool atDigit() const { return isDigit(peek()); }
    std::string_view rest() const { return text_.substr(at_); }

    void skipSpaces();
    /// Takes this text when it comes next.
    bool take(std::string_view what);
    /// Takes this word when it comes next, in whatever case (ASCII), and no letter or digit follows it.
    bool takeWord(std::string_view word);
    /// Whole number without a sign; none when there are no digits or more than 15 of them.
    std::optional<long long> whole();
    /// 12, 12.5, 12,5, .5, 1,234.5: a number without a sign; none for anything that is no finite number.
    /// Nothing is taken then.
    std::optional<double> number();
    /// The same behind an optional sign and with an optional exponent.
    std::optional<double> signedNumber();

    static bool isDigit(char c) { return c >= '0' && c <= '9'; }
    static bool isLetter(char c) { return (c >= 'a' && c <= 'z') || (c >= 'A' && c <= 'Z'); }

  private:
    std::string_view text_;
    size_t at_ = 0;
};

/// The number that is the whole of a text, blanks round it aside; none for anything else.
std::optional<double> numberIn(std::string_view text);

/// The first ratio of two numbers above zero in a text, as 2:1 or 1 : 2.5 (with one of `signs` between): the
/// first over the second; none when there is none.
std::optional<double> ratioIn(std::string_view text, std::string_view signs);

/// ASCII letters made capital.
std::string capitals(std::string_view text);

/// Where a word stands in a text of capitals with no letter or digit before or behind it; npos for nowhere.
size_t findWord(std::string_view capital_text, std::string_view word);

} // namespace prism
