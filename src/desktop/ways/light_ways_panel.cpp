#include "cinnabar/desktop/ways/light_ways_panel.h"

#include <QHBoxLayout>
#include <QVBoxLayout>

#include "cinnabar/desktop/controls/controls.h"
#include "cinnabar/desktop/theme/theme.h"
#include "cinnabar/desktop/theme/words.h"
#include "cinnabar/desktop/ways/way_searches.h"
#include "cinnabar/forecast/methods/methods.h"

namespace cinnabar {

LightWaysPanel::LightWaysPanel(Session* session, Foresight* foresight, QWidget* parent)
    : QWidget(parent), session_(session) {
  setObjectName("lightWays");
  setAccessibleName(tr("Ways to light it"));
  auto* all = new QHBoxLayout(this);
  all->setContentsMargins(10, 30, 8, 7);
  all->setSpacing(12);
  auto* column = new QVBoxLayout;
  column->setSpacing(6);
  arrange_ = new WordButton(tr("Begin anew for this material"), WordButton::Look::plain, this);
  arrange_->setObjectName("findMethods");
  arrange_->setToolTip(
      tr("Two or three arrangements for what the product is made of, to its true size, of lights that are owned. "
         "They take the place of the set-up's lights and cards"));
  fewer_ = new WordButton(tr("Which light can go?"), WordButton::Look::plain, this);
  fewer_->setObjectName("findFewer");
  fewer_->setToolTip(tr("Each light off by itself, and what that does to every shot on the set-up"));
  column->addWidget(arrange_, 0, Qt::AlignLeft);
  column->addWidget(fewer_, 0, Qt::AlignLeft);
  column->addStretch(1);
  all->addLayout(column);
  cards_ = new WayCards("light", session, foresight, this);
  all->addWidget(cards_, 1);
  const auto ask = [this](auto search) {
    if (!session_->setup()) return cards_->clear(tr("There is no shot with a set-up to be lit"));
    cards_->seek(search(cards_->forecaster()));
  };
  connect(arrange_, &WordButton::clicked, this, [ask] { ask(waysToLight); });
  connect(fewer_, &WordButton::clicked, this, [ask] { ask(waysWithFewerLights); });
}

void LightWaysPanel::paintEvent(QPaintEvent*) { drawWaysHead(*this, tr("Ways to light it"), madeOf()); }

/// What the shot's first product is told as: found out once for each state of it.
QString LightWaysPanel::madeOf() {
  std::shared_ptr<const Product> product;
  if (const Shot* shot = session_->shot(); shot && !shot->products.empty())
    for (const auto& one : session_->project().products)
      if (one->id == shot->products.front().product) product = one;
  if (product == told_) return made_;
  told_ = product, made_.clear();
  if (!product) return made_;
  QStringList words;
  for (const std::string& m : materials_of(*product)) words << q(m);
  return made_ = tr("%1 is told as %2").arg(q(product->name), words.join(", "));
}

}  // namespace cinnabar
