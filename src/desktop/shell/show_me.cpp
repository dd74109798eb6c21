#include "cinnabar/desktop/shell/show_me.h"

#include <QEvent>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QLabel>
#include <QVBoxLayout>

#include "cinnabar/desktop/controls/controls.h"
#include "cinnabar/desktop/pages/stage_page.h"
#include "cinnabar/desktop/shell/main_window.h"
#include "cinnabar/desktop/stage/levels_panel.h"
#include "cinnabar/desktop/theme/theme.h"

namespace cinnabar {

/// Drawn over the window round what the step is about; lets every click through.
class ShowMe::Ring : public QWidget {
 public:
  explicit Ring(QWidget* window) : QWidget(window) {
    setObjectName("showMeRing");
    setAttribute(Qt::WA_TransparentForMouseEvents);
    setFocusPolicy(Qt::NoFocus);
  }

 protected:
  void paintEvent(QPaintEvent*) override {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    p.setPen(QPen(theme().accent, 3));
    p.drawRoundedRect(QRectF(rect()).adjusted(2, 2, -2, -2), 6, 6);
  }
};

namespace {

/// What is rung and what it is waited for; the condition is asked again and again and holds what was at the start.
struct Step {
  const char* text;
  QWidget* (*target)(MainWindow&);
  std::function<bool()> (*until)(MainWindow&);
};

template <const char* name>
QWidget* named(MainWindow& w) {
  return w.findChild<QWidget*>(name);
}
/// The first level that stands out, or the panel until one is known.
QWidget* off_level(MainWindow& w) {
  for (Vial* vial : w.findChildren<Vial*>())
    if (vial->isVisible() && vial->level().state == State::out) return vial;
  return w.stage()->levels();
}
QWidget* levels_panel(MainWindow& w) { return w.stage()->levels(); }
QWidget* first_lever(MainWindow& w) {
  auto* lever = w.findChild<QWidget*>("lever-1");
  if (!lever) lever = w.findChild<QWidget*>("proved-1");
  return lever && lever->isVisible() ? lever : levels_panel(w);
}
/// Until another edit is the last one.
std::function<bool()> until_edit(MainWindow& w) {
  return [&w, before = w.session()->undoTitle()] {
    return !w.session()->previewing() && w.session()->undoTitle() != before;
  };
}

constexpr char floor_name[] = "floor", lights_name[] = "lights", ladder_name[] = "ladder",
               board_name[] = "page-board", mast_name[] = "projectMenu";

const std::vector<Step>& walk() {
  static const std::vector<Step> steps{
      {QT_TRANSLATE_NOOP("cinnabar::ShowMe",
                         "A level is out: its bubble stands outside the two lines. Click it to see why."),
       off_level,
       [](MainWindow& w) -> std::function<bool()> {
         return [&w] { return !w.stage()->levels()->opened().isEmpty(); };
       }},
      {QT_TRANSLATE_NOOP("cinnabar::ShowMe",
                         "Levers that bring it home are tried out one by one. Press Try on the first: the picture "
                         "shows it, and nothing is kept yet."),
       first_lever,
       [](MainWindow& w) -> std::function<bool()> { return [&w] { return w.session()->previewing(); }; }},
      {QT_TRANSLATE_NOOP("cinnabar::ShowMe",
                         "The bubbles moved, here and in the other shots of the set-up. Press Apply to keep it."),
       first_lever, until_edit},
      {QT_TRANSLATE_NOOP("cinnabar::ShowMe", "Everything can be taken back: press Ctrl+Z."), named<mast_name>,
       [](MainWindow& w) -> std::function<bool()> {
         return [&w, before = w.session()->undoTitle()] { return w.session()->undoTitle() != before; };
       }},
      {QT_TRANSLATE_NOOP("cinnabar::ShowMe",
                         "The floor is to scale. Drag a light: distance, picture and levels follow."),
       named<floor_name>, until_edit},
      {QT_TRANSLATE_NOOP(
           "cinnabar::ShowMe",
           "Lights, from the dark: click one's switch, or its row and press Space, and see what it was "
           "for."),
       named<lights_name>, until_edit},
      {QT_TRANSLATE_NOOP(
           "cinnabar::ShowMe",
           "The ladder ties the floor's clock to the film's. Drag along it, or click it and press Right."),
       named<ladder_name>,
       [](MainWindow& w) -> std::function<bool()> {
         return [&w, before = w.session()->setTime()] { return w.session()->setTime() != before; };
       }},
      {QT_TRANSLATE_NOOP("cinnabar::ShowMe",
                         "All shots of the spot are on the Board. Open it, and go on by yourself."),
       named<board_name>, [](MainWindow& w) -> std::function<bool()> {
         return [&w] {
           auto* board = w.findChild<QWidget*>("board");
           return board && board->isVisible();
         };
       }}};
  return steps;
}

}  // namespace

int ShowMe::steps() { return static_cast<int>(walk().size()); }

ShowMe::ShowMe(MainWindow* window) : QWidget(window), window_(window), ring_(new Ring(window)) {
  setObjectName("showMe");
  setAccessibleName(tr("Show me"));
  setFocusPolicy(Qt::TabFocus);
  count_ = new PlainLabel(this);
  count_->setProperty("quiet", true);
  text_ = new PlainLabel(this);
  text_->setObjectName("showMeText");
  text_->setWordWrap(true);
  next_ = new WordButton(tr("Skip this"), WordButton::Look::chip, this);
  next_->setObjectName("showMeSkip");
  next_->setCheckable(false);
  leave_ = new WordButton(tr("Leave"), WordButton::Look::chip, this);
  leave_->setObjectName("showMeLeave");
  leave_->setCheckable(false);
  auto* all = new QVBoxLayout(this);
  all->setContentsMargins(14, 10, 14, 10);
  all->addWidget(text_, 1);
  auto* row = new QHBoxLayout;
  row->addWidget(count_, 1);
  row->addWidget(next_);
  row->addWidget(leave_);
  all->addLayout(row);
  setFixedSize(300, 118);
  connect(leave_, &WordButton::clicked, this, [this] {
    emit ended();
    deleteLater();
  });
  connect(next_, &WordButton::clicked, this, [this] { show(step_ + 1); });
  connect(this, &QObject::destroyed, ring_, &QObject::deleteLater);
  watch_.setInterval(120);
  connect(&watch_, &QTimer::timeout, this, &ShowMe::look);
  window->installEventFilter(this);
  QWidget::show();
  show(0);
  watch_.start();
}

void ShowMe::show(int step) {
  if (step >= steps()) {
    emit ended();
    ring_->hide();
    deleteLater();
    return;
  }
  step_ = step;
  const Step& now = walk()[static_cast<std::size_t>(step)];
  if (step + 1 < steps()) window_->showPage("stage");  // the last leads to another page
  text_->setText(tr(now.text));
  count_->setText(tr("%1 of %2").arg(step + 1).arg(steps()));
  setAccessibleDescription(text_->text());
  finished_ = now.until(*window_);
  place();
}

void ShowMe::look() {
  if (!window_->session()) {
    emit ended();
    return deleteLater();
  }
  if (finished_ && finished_()) return show(step_ + 1);
  place();
}

/// The ring round the target, the words where they cover neither it nor the levels.
void ShowMe::place() {
  QWidget* target = walk()[static_cast<std::size_t>(step_)].target(*window_);
  ring_->setVisible(target && target->isVisible());
  if (!target || !target->isVisible()) return;
  const QRect at(target->mapTo(window_, QPoint(0, 0)), target->size());
  ring_->setGeometry(at.adjusted(-4, -4, 4, 4).intersected(window_->rect()));
  const QRect around = at.adjusted(-12, -12, 12, 12), room = window_->rect().adjusted(8, 52, -8, -30);
  const QPoint places[] = {{around.left() - width(), at.center().y() - height() / 2},
                           {around.right(), at.center().y() - height() / 2},
                           {at.center().x() - width() / 2, around.bottom()},
                           {at.center().x() - width() / 2, around.top() - height()}};
  QRect best;
  for (const QPoint& p : places) {
    QRect box(p, size());
    box.moveLeft(std::clamp(box.left(), room.left(), std::max(room.left(), room.right() - width())));
    box.moveTop(std::clamp(box.top(), room.top(), std::max(room.top(), room.bottom() - height())));
    if (best.isNull() || (best.intersects(at) && !box.intersects(at))) best = box;
  }
  move(best.topLeft());
  ring_->raise();
  raise();
}

bool ShowMe::eventFilter(QObject* object, QEvent* event) {
  if (object == window_ && event->type() == QEvent::Resize) place();
  return QWidget::eventFilter(object, event);
}

void ShowMe::keyPressEvent(QKeyEvent* event) {
  if (event->key() == Qt::Key_Escape) return leave_->click();
  QWidget::keyPressEvent(event);
}

void ShowMe::paintEvent(QPaintEvent*) {
  QPainter p(this);
  p.setRenderHint(QPainter::Antialiasing);
  p.setPen(QPen(theme().accent, 2));
  p.setBrush(theme().panel);
  p.drawRoundedRect(QRectF(rect()).adjusted(1, 1, -1, -1), 4, 4);
}

}  // namespace cinnabar
