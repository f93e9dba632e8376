#include "document/measure.h"

#include "geom/short_number.h"

#include <charconv>
#include <fmt/format.h>
#include <utility>

namespace frelm {
namespace {

struct Value {
  double amount = 0;
  bool has_unit = false;
};

class MeasureReader {
public:
  MeasureReader(std::string text, MeasureKind kind, Unit unit) : text_(std::move(text)), kind_(kind), unit_(unit) {}

  Result<double> read() {
    if (text_.find_first_not_of(" \t") == std::string::npos)
      return bad_input(FRELM_WORDS("core", "type a number"));
    Value v;
    if (!sum(v))
      return bad_input(error_);
    skip();
    if (at_ < text_.size())
      return bad_input(say(FRELM_WORDS("core", "'%1' can't be read"), text_.substr(at_)));
    const double out = v.has_unit ? v.amount : v.amount * own_unit();
    if (!std::isfinite(out))
      return bad_input(FRELM_WORDS("core", "that is not a number"));
    return out;
  }

private:
  bool fail(Words what) {
    if (error_.empty())
      error_ = what;
    return false;
  }
  void skip() {
    while (at_ < text_.size() && (text_[at_] == ' ' || text_[at_] == '\t'))
      ++at_;
  }
  double own_unit() const { return kind_ == MeasureKind::Length && unit_ == Unit::Inch ? mm_per_inch : 1; }
  bool take(char c) {
    skip();
    if (at_ >= text_.size() || text_[at_] != c)
      return false;
    ++at_;
    return true;
  }

  bool sum(Value& v) {
    if (!product(v))
      return false;
    for (;;) {
      const bool plus = take('+'), minus = !plus && take('-');
      if (!plus && !minus)
        return true;
      Value w;
      if (!product(w))
        return false;
      if (v.has_unit != w.has_unit)
        (v.has_unit ? w : v).amount *= own_unit(), v.has_unit = true;
      v.amount += plus ? w.amount : -w.amount;
    }
  }
  bool product(Value& v) {
    if (!factor(v))
      return false;
    for (;;) {
      const bool times = take('*') || take('x'), over = !times && take('/');
      if (!times && !over)
        return true;
      Value w;
      if (!factor(w))
        return false;
      if (over && w.has_unit)
        return fail(FRELM_WORDS("core", "a measure can't be divided by a length"));
      if (times && v.has_unit && w.has_unit)
        return fail(FRELM_WORDS("core", "two lengths can't be multiplied"));
      if (over && w.amount == 0)
        return fail(FRELM_WORDS("core", "nothing can be divided by 0"));
      v.amount = over ? v.amount / w.amount : v.amount * w.amount;
      v.has_unit = v.has_unit || w.has_unit;
    }
  }
  bool factor(Value& v) {
    if (take('-')) {
      if (!factor(v))
        return false;
      v.amount = -v.amount;
      return true;
    }
    (void)take('+');
    if (take('('))
      return sum(v) && (take(')') || fail(FRELM_WORDS("core", "a ) is missing")));
    return quantity(v);
  }
  bool number(double& out) {
    skip();
    std::string digits;
    std::size_t end = at_;
    while (end < text_.size() &&
           (std::isdigit(static_cast<unsigned char>(text_[end])) != 0 || text_[end] == '.' || text_[end] == ','))
      digits.push_back(text_[end] == ',' ? '.' : text_[end]), ++end;
    const auto [stop, status] = std::from_chars(digits.data(), digits.data() + digits.size(), out);
    if (status != std::errc() || stop != digits.data() + digits.size())
      return fail(FRELM_WORDS("core", "a number is missing"));
    at_ = end;
    return true;
  }
  // "/ number" right behind a number, or " number / number".
  bool fraction(double& value) {
    const std::size_t back = at_;
    double top = 0, bottom = 0;
    skip();
    if (at_ < text_.size() && text_[at_] == '/') {
      ++at_;
      if (!number(bottom))
        return false;
      if (bottom == 0)
        return fail(FRELM_WORDS("core", "nothing can be divided by 0"));
      value /= bottom;
    } else if (at_ > back && at_ < text_.size() && std::isdigit(static_cast<unsigned char>(text_[at_])) != 0) {
      if (!number(top) || !take('/') || !number(bottom))
        return fail(FRELM_WORDS("core", "a fraction is written like 3 1/8"));
      if (bottom == 0)
        return fail(FRELM_WORDS("core", "nothing can be divided by 0"));
      value += top / bottom;
    } else {
      at_ = back;
    }
    return true;
  }
  bool quantity(Value& v) {
    if (!number(v.amount) || !fraction(v.amount))
      return false;
    skip();
    static constexpr std::pair<std::string_view, double> lengths[]{{"mm", 1},
                                                                   {"cm", 10},
                                                                   {"inches", mm_per_inch},
                                                                   {"inch", mm_per_inch},
                                                                   {"in", mm_per_inch},
                                                                   {"\"", mm_per_inch},
                                                                   {"″", mm_per_inch},
                                                                   {"ft", 12 * mm_per_inch},
                                                                   {"'", 12 * mm_per_inch},
                                                                   {"pt", mm_per_inch / 72},
                                                                   {"m", 1000}};
    static constexpr std::pair<std::string_view, double> angles[]{{"°", 1}, {"deg", 1}};
    static constexpr std::pair<std::string_view, double> percents[]{{"%", 1}};
    const auto match = [&](const auto& table) {
      for (const auto& [name, factor] : table)
        if (std::string_view(text_).substr(at_).starts_with(name)) {
          at_ += name.size();
          v.amount *= factor;
          v.has_unit = true;
          return;
        }
    };
    if (kind_ == MeasureKind::Length)
      match(lengths);
    if (kind_ == MeasureKind::Angle)
      match(angles);
    if (kind_ == MeasureKind::Percent)
      match(percents);
    return true;
  }

  std::string text_;
  MeasureKind kind_;
  Unit unit_;
  std::size_t at_ = 0;
  Words error_;
};

} // namespace

Result<double> parse_measure(const std::string& text, MeasureKind kind, Unit unit) {
  return MeasureReader(text, kind, unit).read();
}

std::string format_length(double mm, Unit unit) {
  return unit == Unit::Inch ? short_number(mm / mm_per_inch, 3) : short_number(mm, 2);
}

const char* unit_name(Unit unit) {
  return unit == Unit::Inch ? "in" : "mm";
}

} // namespace frelm
