#include "cinnabar/desktop/ways/asked_numbers.h"

#include <QHBoxLayout>

#include "cinnabar/base/text.h"
#include "cinnabar/desktop/controls/controls.h"
#include "cinnabar/desktop/edits/number_words.h"
#include "cinnabar/desktop/stage/vial.h"
#include "cinnabar/desktop/theme/words.h"

namespace cinnabar {
namespace {

/// Lengths in the project's units, others with a short unit behind them; without a value "as it fits" stands.
NumberField::Spec field_of(const AskedNumber& number, std::optional<double> value, Units units) {
  NumberField::Spec spec{q(number.name), q(number.key), value.value_or(0.0), 0.1, {}, {}};
  if (number.unit == "m") {
    spec.step = 0.005;
    spec.text = [units](double v) { return q(length_text(v, units)); };
    spec.parse = [units](const QString& t) { return parse_length(t.toStdString(), units); };
  } else {
    // Degrees and seconds by their short marks; what else the unit says stands in the tooltip.
    const bool degrees = number.unit == "degrees";
    const QString mark = degrees                         ? QString(QChar(0x00B0))
                         : number.unit.starts_with("s ") ? QString("s")
                         : number.unit.starts_with("%")  ? QString("%")
                                                         : q(number.unit);
    spec.step = mark == "%" || mark == "mm" || degrees ? 1.0 : number.unit.empty() ? 0.05 : 0.1;
    spec.text = [mark, behind = mark.isEmpty() || degrees ? mark : " " + mark](double v) {
      return tidyMinus(q(number_text(v, 3))) + behind;
    };
    spec.parse = numberTyped(mark);
  }
  if (!value) spec.text = [](double) { return QObject::tr("as it fits"); };
  return spec;
}

}  // namespace

AskedNumbers::AskedNumbers(Session* session, QWidget* parent) : QWidget(parent), session_(session) {
  auto* row = new QHBoxLayout(this);
  row->setContentsMargins(0, 0, 0, 0);
  row->setSpacing(6);
  for (std::size_t i = 0; i < fields_.size(); ++i) {
    auto* field = fields_[i] = new NumberField(this);
    field->setMinimumWidth(58);
    row->addWidget(field, 1);
    connect(field, &NumberField::refused, session, &Session::message);
    connect(field, &NumberField::entered, this, [this, i](double v) {
      if (i >= numbers_.size()) return;
      const AskedNumber& number = numbers_[i];
      if (number.range.contains(v)) return set(number.key, v);
      emit session_->message(tr("%1: give %2").arg(q(number.name), q(number.range.text())));
      refresh();
    });
  }
}

void AskedNumbers::ask(const std::vector<AskedNumber>& numbers) {
  numbers_ = numbers;
  typed_.clear();
  refresh();
}

void AskedNumbers::set(const std::string& key, double value) {
  typed_[key] = value;
  refresh();
  emit changed();
}

std::map<std::string, double> AskedNumbers::values() const {
  std::map<std::string, double> all = typed_;
  for (const AskedNumber& number : numbers_)
    if (number.usual) all.try_emplace(number.key, *number.usual);
  return all;
}

void AskedNumbers::refresh() {
  const auto all = values();
  setVisible(!numbers_.empty());
  for (std::size_t i = 0; i < fields_.size(); ++i) {
    fields_[i]->setVisible(i < numbers_.size());
    if (i >= numbers_.size()) continue;
    const AskedNumber& number = numbers_[i];
    const auto value = all.find(number.key);
    fields_[i]->setSpec(
        field_of(number, value == all.end() ? std::nullopt : std::optional(value->second), session_->units()));
    fields_[i]->setToolTip(plainTip(q(number.unit.empty() ? number.name : number.name + ", " + number.unit)));
  }
}

}  // namespace cinnabar
