#include "cinnabar/desktop/paper/settings_sheet.h"

#include <QGridLayout>
#include <QKeyEvent>
#include <QPushButton>
#include <QScrollArea>
#include <QScrollBar>
#include <QVBoxLayout>

#include "cinnabar/desktop/controls/controls.h"
#include "cinnabar/desktop/controls/sheets.h"
#include "cinnabar/desktop/theme/words.h"
#include "cinnabar/formats/settings_cards.h"

namespace cinnabar {

SettingsSheet::SettingsSheet(Session* session, QWidget* parent) : QDialog(parent), session_(session) {
  beginSheet(this, "settingsSheet", tr("What to dial in"), parent->size() - QSize(60, 60));
  title_ = new PlainLabel(this);
  title_->setObjectName("settingsTitle");
  title_->setStyleSheet("font-size: 24px; font-weight: bold;");  // the window's own sheet has a size for all
  title_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);  // a long name takes no room from the rest
  const auto button = [this](const QString& text, const char* name, const QString& forPeople, int by) {
    auto* b = new WordButton(text, WordButton::Look::plain, this);
    b->setObjectName(name);
    b->setCheckable(false);
    b->setAccessibleName(forPeople);
    connect(b, &WordButton::clicked, this, [this, by] { go(by); });
    return b;
  };
  before_ = button(tr("Before"), "settingsBefore", tr("The shot before (Left)"), -1);
  after_ = button(tr("Next"), "settingsNext", tr("The next shot (Right)"), 1);
  auto* back = new QPushButton(tr("Back"), this);
  back->setObjectName("settingsBack");
  back->setAutoDefault(false);
  connect(back, &QPushButton::clicked, this, &QDialog::accept);
  rows_ = new QScrollArea(this);
  rows_->setObjectName("settingsRows");
  rows_->setWidgetResizable(true);
  rows_->setFrameShape(QFrame::NoFrame);
  rows_->setFocusPolicy(Qt::NoFocus);
  auto* top = new QHBoxLayout;
  top->addWidget(title_, 1);
  for (QWidget* w : {static_cast<QWidget*>(before_), static_cast<QWidget*>(after_), static_cast<QWidget*>(back)})
    top->addWidget(w);
  auto* all = new QVBoxLayout(this);
  all->setContentsMargins(24, 16, 24, 16);
  all->setSpacing(10);
  all->addLayout(top);
  all->addWidget(rows_, 1);
  connect(session, &Session::changed, this, &SettingsSheet::tell);
  connect(session, &Session::shotChanged, this, &SettingsSheet::tell);
  tell();
  setFocus();
}

void SettingsSheet::go(int by) {
  const auto last = static_cast<int>(session_->project().shots.size()) - 1;
  if (last >= 0)
    session_->selectShot(
        static_cast<std::size_t>(std::clamp(static_cast<int>(session_->shotIndex()) + by, 0, last)));
}

void SettingsSheet::tell() {
  const std::size_t count = session_->project().shots.size(), at = session_->shotIndex();
  auto* list = new QWidget(rows_);
  auto* grid = new QGridLayout(list);
  grid->setContentsMargins(0, 0, 8, 0);
  grid->setHorizontalSpacing(24);
  grid->setVerticalSpacing(8);
  grid->setColumnStretch(1, 1);
  const auto label = [list](const QString& text, const char* look) {
    auto* l = new PlainLabel(text, list);
    l->setStyleSheet(look);
    l->setWordWrap(true);
    return l;
  };
  int line = 0;
  const bool any = session_->shot() && at < count;
  const SettingsCard card = any ? settings_card(session_->project(), at) : SettingsCard{};
  title_->setText(any ? q(card.title) : tr("No shots yet"));
  for (const auto& [what, value] : card.rows) {
    grid->addWidget(label(q(what), "font-size: 15px;"), line, 0, Qt::AlignLeft | Qt::AlignVCenter);
    grid->addWidget(label(q(value), "font-size: 22px; font-weight: bold;"), line++, 1);
  }
  if (any && card.rows.empty()) grid->addWidget(label(tr("no camera yet"), "font-size: 22px;"), 0, 0, 1, 2);
  grid->setRowStretch(line, 1);
  rows_->setWidget(list);  // the one before goes
  before_->setEnabled(any && at > 0);
  after_->setEnabled(any && at + 1 < count);
}

void SettingsSheet::keyPressEvent(QKeyEvent* event) {
  QScrollBar* bar = rows_->verticalScrollBar();
  switch (event->key()) {
    case Qt::Key_Left:
      return go(-1);
    case Qt::Key_Right:
      return go(1);
    case Qt::Key_Up:
      return bar->triggerAction(QAbstractSlider::SliderSingleStepSub);
    case Qt::Key_Down:
      return bar->triggerAction(QAbstractSlider::SliderSingleStepAdd);
    case Qt::Key_PageUp:
      return bar->triggerAction(QAbstractSlider::SliderPageStepSub);
    case Qt::Key_PageDown:
      return bar->triggerAction(QAbstractSlider::SliderPageStepAdd);
    default:
      QDialog::keyPressEvent(event);
  }
}

}  // namespace cinnabar
