#include "cinnabar/desktop/controls/number_grid.h"

#include <QGridLayout>

namespace cinnabar {

NumberGrid::NumberGrid(const Looks& looks, std::size_t usual, QWidget* parent)
    : QWidget(parent), looks_(looks), grid_(new QGridLayout(this)) {
  grid_->setContentsMargins(0, 0, 0, 0);
  grid_->setHorizontalSpacing(looks.apart);
  grid_->setVerticalSpacing(looks.rows);
  for (int c = 0; c < looks.across; ++c) grid_->setColumnStretch(c, 1);
  while (fields_.size() < usual) add();
}

void NumberGrid::place(std::size_t at) {
  const auto across = static_cast<std::size_t>(looks_.across);
  grid_->addWidget(fields_[at], static_cast<int>(at / across), static_cast<int>(at % across));
}

void NumberGrid::add() {
  auto* field = new NumberField(this);
  field->setMinimumWidth(looks_.narrowest);
  field->hide();
  const std::size_t at = fields_.size();
  if (at > 0) setTabOrder(fields_.back(), field);
  fields_.push_back(field);
  place(at);
  connect(field, &NumberField::previewed, this, [this, at](double value) { emit previewed(at, value); });
  connect(field, &NumberField::entered, this, [this, at](double value) { emit entered(at, value); });
  connect(field, &NumberField::refused, this, &NumberGrid::refused);
}

void NumberGrid::setAcross(int across) {
  if (across == looks_.across) return;
  const int widest = std::max(across, looks_.across);
  looks_.across = across;
  for (QWidget* field : fields_) grid_->removeWidget(field);
  for (std::size_t at = 0; at < fields_.size(); ++at) place(at);
  for (int c = 0; c < widest; ++c) grid_->setColumnStretch(c, c < across ? 1 : 0);
}

void NumberGrid::setNumbers(const std::vector<NumberField::Spec>& specs) {
  while (fields_.size() < specs.size()) add();
  for (std::size_t at = 0; at < fields_.size(); ++at) {
    if (at < specs.size()) fields_[at]->setSpec(specs[at]);
    fields_[at]->setVisible(at < specs.size());
  }
  setVisible(!specs.empty());
}

}  // namespace cinnabar
