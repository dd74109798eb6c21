#include "cinnabar/desktop/controls/unit_fields.h"

#include <QComboBox>
#include <cmath>

#include "cinnabar/desktop/edits/number_words.h"
#include "cinnabar/desktop/theme/words.h"

namespace cinnabar {
namespace {

/// How a unit is shown: its short mark, and the kept value of one of it.
struct Mark {
  QString text;
  double scale = 1;
};
Mark mark_of(const std::string& unit) {
  if (unit.starts_with("degrees")) return {QChar(0x00B0)};
  if (unit.starts_with("m3/s")) return {"ml/s", 1e-6};
  if (unit.starts_with("m3")) return {"ml", 1e-6};
  if (unit.starts_with("s ")) return {"s"};
  if (unit.starts_with("%")) return {"%"};
  if (unit.starts_with("share")) return {};
  return {q(unit.substr(0, unit.find(',')))};
}
bool is_length(const std::string& unit) { return unit == "m" || unit.starts_with("m,"); }

}  // namespace

QString withUnit(double value, const std::string& unit, Units units) {
  if (is_length(unit)) return q(length_text(value, units));
  const Mark mark = mark_of(unit);
  const bool close = mark.text.isEmpty() || mark.text == QChar(0x00B0);
  return tidyMinus(q(number_text(value / mark.scale, 3))) + (close ? "" : " ") + mark.text;
}

NumberField::Spec unitField(const QString& name, const std::string& id, double value, const std::string& unit,
                            Units units) {
  NumberField::Spec spec{name, q(id), value, 0.1, {}, {}};
  spec.text = [unit, units](double v) { return withUnit(v, unit, units); };
  if (is_length(unit)) {
    spec.step = value >= 0.05 ? 0.005 : value > 0.0 && value < 1e-4 ? 1e-6 : 0.0005;
    spec.parse = [units](const QString& t) { return parse_length(t.toStdString(), units); };
    return spec;
  }
  const Mark mark = mark_of(unit);
  const double size = std::abs(value / mark.scale);
  spec.step =
      mark.scale * (mark.text == "%" || mark.text == "mm" || mark.text == QChar(0x00B0) || mark.scale != 1.0 ? 1.0
                    : size >= 100                                                                            ? 10.0
                    : size >= 10                                                                             ? 1.0
                    : mark.text.isEmpty()                                                                    ? 0.05
                    : size > 0.0 && size < 0.1 ? 0.001
                                               : 0.1);
  spec.parse = numberTyped(mark.text, mark.scale);
  return spec;
}

void offer(QComboBox& box, const std::vector<std::pair<QString, QString>>& choices, const QString& chosen) {
  bool same = box.count() == static_cast<int>(choices.size());
  for (int i = 0; same && i < box.count(); ++i) {
    const auto& [words, stands_for] = choices[static_cast<std::size_t>(i)];
    same = box.itemText(i) == words && box.itemData(i).toString() == stands_for;
  }
  if (!same) {
    box.clear();
    for (const auto& [words, stands_for] : choices) box.addItem(words, stands_for);
  }
  box.setCurrentIndex(box.findData(chosen));
}

}  // namespace cinnabar
