#include "cinnabar/desktop/ways/asked_number.h"

#include "cinnabar/base/text.h"
#include "cinnabar/desktop/edits/number_words.h"
#include "cinnabar/desktop/theme/words.h"

namespace cinnabar {

NumberField::Spec askedNumber(const Session& session, const std::string& key, const std::string& name,
                              const std::string& unit, std::optional<double> value, const QString& otherwise) {
  NumberField::Spec spec{q(name), q(key), value.value_or(0.0), 0.1, {}, {}};
  if (unit == "m") {
    const Units u = session.units();
    spec.step = 0.005;
    spec.text = [u](double v) { return q(length_text(v, u)); };
    spec.parse = [u](const QString& t) { return parse_length(t.toStdString(), u); };
  } else {
    // Degrees and seconds by their short marks; what else the unit says stands in the tooltip.
    const QString shown = unit.starts_with("s ") ? QString("s") : unit.starts_with("%") ? QString("%") : q(unit);
    const bool degrees = unit == "degrees";
    spec.step = shown == "%" || shown == "mm" || degrees ? 1.0 : unit.empty() ? 0.05 : 0.1;
    spec.text = [shown, degrees](double v) {
      const QString number = tidyMinus(q(number_text(v, 3)));
      return degrees ? number + QChar(0x00B0) : shown.isEmpty() ? number : number + " " + shown;
    };
    spec.parse = numberTyped(degrees ? QString(QChar(0x00B0)) : shown);
  }
  if (!value && !otherwise.isEmpty()) spec.text = [otherwise](double) { return otherwise; };
  return spec;
}

}  // namespace cinnabar
