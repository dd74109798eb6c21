#include "cinnabar/desktop/ways/asked_numbers.h"

#include <QVBoxLayout>
#include <algorithm>

#include "cinnabar/desktop/controls/number_grid.h"
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
  fields_ = new NumberGrid({.across = 1, .apart = 6, .narrowest = 58}, 4, this);
  auto* all = new QVBoxLayout(this);
  all->setContentsMargins(0, 0, 0, 0);
  all->addWidget(fields_);
  connect(fields_, &NumberGrid::refused, session, &Session::message);
  connect(fields_, &NumberGrid::entered, this, [this](std::size_t at, double v) {
    if (at >= numbers_.size()) return;
    const AskedNumber& number = numbers_[at];
    if (number.range.contains(v)) return set(number.key, v);
    emit session_->message(tr("%1: give %2").arg(q(number.name), q(number.range.text())));
    refresh();
  });
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
  std::vector<NumberField::Spec> specs;
  for (const AskedNumber& number : numbers_) {
    const auto value = all.find(number.key);
    specs.push_back(
        field_of(number, value == all.end() ? std::nullopt : std::optional(value->second), session_->units()));
  }
  fields_->setAcross(std::max<int>(1, static_cast<int>(specs.size())));
  fields_->setNumbers(specs);
}

}  // namespace cinnabar
