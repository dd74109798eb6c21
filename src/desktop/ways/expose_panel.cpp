#include "cinnabar/desktop/ways/expose_panel.h"

#include <QHBoxLayout>
#include <QVBoxLayout>

#include "cinnabar/desktop/controls/controls.h"
#include "cinnabar/desktop/theme/theme.h"
#include "cinnabar/desktop/ways/way_searches.h"

namespace cinnabar {

ExposePanel::ExposePanel(Session* session, Foresight* foresight, QWidget* parent)
    : QWidget(parent), session_(session) {
  setObjectName("exposePanel");
  setAccessibleName(tr("Stops"));
  purse_ = new PurseView(session, foresight->forecaster(), this);
  cards_ = new WayCards("stops", session, foresight, this);
  back_ = new WordButton(tr("The purse"), WordButton::Look::chip, this);
  back_->setObjectName("showPurse");
  back_->setCheckable(false);
  find_ = new WordButton(tr("Find the stops"), WordButton::Look::plain, this);
  find_->setObjectName("findStops");
  find_->setFixedHeight(20);
  find_->setToolTip(
      tr("Settings and dimmers that bring the exposure home, none of them better than another in "
         "everything; what is pinned stays"));
  auto* all = new QVBoxLayout(this);
  all->setContentsMargins(10, 4, 8, 5);
  all->setSpacing(3);
  auto* head = new QHBoxLayout;
  head->setSpacing(6);
  head->addStretch(1);
  head->addWidget(back_);
  head->addWidget(find_);
  all->addLayout(head);
  all->addWidget(purse_, 1);
  all->addWidget(cards_, 1);
  connect(find_, &WordButton::clicked, this, [this] {
    showCards(true);
    if (!session_->shot()) return cards_->clear(tr("There is no shot to be exposed"));
    cards_->seek(waysToExpose(cards_->forecaster(), purse_->pins()));
  });
  connect(back_, &WordButton::clicked, this, [this] { showCards(false); });
  showCards(false);
}

void ExposePanel::showCards(bool cards) {
  cards_->setVisible(cards);
  purse_->setVisible(!cards);
  back_->setVisible(cards);
  update();
}

void ExposePanel::paintEvent(QPaintEvent*) {
  QPainter p(this);
  const Theme& t = theme();
  drawPanel(p, rect());
  drawText(p, {10, 5, 90, 17}, Qt::AlignLeft | Qt::AlignVCenter,
           cards_->isVisible() ? tr("Find the stops") : tr("Stops"), textFont(11, true), t.ink);
  const double x = cards_->isVisible() ? 104 : 52;
  drawText(p, {x, 5, find_->x() - x - (back_->isVisible() ? back_->width() + 14.0 : 8.0), 17},
           Qt::AlignLeft | Qt::AlignVCenter,
           cards_->isVisible() ? tr("none is better than another in everything")
                               : tr("move one and the free ones pay; a name pins its row"),
           textFont(11), t.quiet);
}

}  // namespace cinnabar
