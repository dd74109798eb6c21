#include "cinnabar/desktop/ways/asked_numbers.h"

#include <QHBoxLayout>

#include "cinnabar/desktop/controls/unit_fields.h"
#include "cinnabar/desktop/theme/words.h"

namespace cinnabar {
namespace {

/// Without a value "as it fits" stands.
NumberField::Spec field_of(const AskedNumber& number, std::optional<double> value, Units units) {
  NumberField::Spec spec = unitField(q(number.name), number.key, value.value_or(0.0), number.unit, units);
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
