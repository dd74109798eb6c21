#include "cinnabar/desktop/pages/board_page.h"

#include <QHBoxLayout>
#include <QKeyEvent>
#include <QLabel>
#include <QMouseEvent>
#include <QPainterPath>
#include <QPointer>
#include <QScrollArea>
#include <QVBoxLayout>
#include <cmath>

#include "cinnabar/base/text.h"
#include "cinnabar/desktop/board/add_shot_sheet.h"
#include "cinnabar/desktop/board/move_shelf.h"
#include "cinnabar/desktop/board/paste_sheet.h"
#include "cinnabar/desktop/board/shot_paper.h"
#include "cinnabar/desktop/board/sketch_pad.h"
#include "cinnabar/desktop/controls/controls.h"
#include "cinnabar/desktop/theme/theme.h"
#include "cinnabar/desktop/theme/words.h"
#include "cinnabar/desktop/workers/later.h"
#include "cinnabar/planning/order.h"
#include "cinnabar/project/checks/validation.h"
#include "cinnabar/project/making/shot_edits.h"

namespace cinnabar {
namespace {

constexpr int labels = 128, gap = 8, leastSlot = 99, mostSlot = 150, leastBand = 156, mostBand = 190;

}  // namespace

BoardCards::BoardCards(Session* session, Foresight* foresight, QWidget* parent)
    : Painted("boardCards", tr("Shots on the bands of their set-ups"),
              tr("Left and Right choose a shot, Control with them moves it in the story, Control with Up and Down "
                 "puts it on "
                 "another set-up, Enter opens it on the Stage"),
              parent),
      session_(session),
      foresight_(foresight) {
  setMouseTracking(true);
  connect(session_, &Session::changed, this, [this] {
    arrange();
    update();
  });
  connect(session_, &Session::shotChanged, this, [this] { update(); });
  connect(foresight_, &Foresight::glances, this, [this] { update(); });
  arrange();
}

void BoardCards::fitTo(const QSize& sight) {
  sight_ = sight;
  arrange();
}

void BoardCards::arrange() {
  const int shots = std::max(1, static_cast<int>(session_->project().shots.size())),
            bands = std::max(1, static_cast<int>(session_->project().setups.size()));
  slot_ = std::clamp((sight_.width() - labels - gap) / shots, leastSlot, mostSlot);
  bandHeight_ = std::clamp(sight_.height() / bands, leastBand, mostBand);
  const QSize needed(labels + shots * slot_ + gap, bands * bandHeight_);
  if (minimumSize() != needed) setMinimumSize(needed);
}

std::size_t BoardCards::bandOf(std::size_t shot) const {
  const auto& setups = session_->project().setups;
  for (std::size_t i = 0; i < setups.size(); ++i)
    if (setups[i]->id == session_->project().shots[shot]->setup) return i;
  return 0;
}
QRect BoardCards::band(std::size_t setup) const {
  return {0, static_cast<int>(setup) * bandHeight_, std::max(width(), minimumWidth()), bandHeight_ - 10};
}
QRect BoardCards::card(std::size_t shot) const {
  if (shot >= session_->project().shots.size()) return {};
  const QRect own = band(bandOf(shot));
  return {labels + static_cast<int>(shot) * slot_, own.top() + 12, slot_ - gap, own.height() - 22};
}
std::optional<std::size_t> BoardCards::cardAt(const QPoint& at) const {
  const int i = (at.x() - labels) / slot_;
  if (at.x() < labels || i >= static_cast<int>(session_->project().shots.size())) return std::nullopt;
  const auto shot = static_cast<std::size_t>(i);
  return card(shot).contains(at) ? std::optional(shot) : std::nullopt;
}
std::size_t BoardCards::bandAt(int y) const {
  const int last = static_cast<int>(session_->project().setups.size()) - 1;
  return static_cast<std::size_t>(std::clamp(y / bandHeight_, 0, std::max(0, last)));
}

void BoardCards::paintEvent(QPaintEvent* event) {
  QPainter p(this);
  p.setRenderHint(QPainter::Antialiasing);
  const Theme& t = theme();
  const Project& project = session_->project();
  for (std::size_t i = 0; i < project.setups.size(); ++i)
    if (band(i).intersects(event->rect())) paintBand(p, i);
  if (project.shots.empty())
    drawText(p, QRectF(project.setups.empty() ? 4 : labels, 14, width() - labels - 8, 24),
             Qt::AlignLeft | Qt::AlignVCenter,
             tr("No shots yet. Paste a list, read a table, or press \"+ shot\"."), textFont(13), t.quiet);
  paintThread(p, event->rect());
  const int first = std::max(0, (event->rect().left() - labels) / slot_ - 1),
            last =
                std::min(static_cast<int>(project.shots.size()) - 1, (event->rect().right() - labels) / slot_ + 1);
  for (int i = first; i <= last; ++i) paintCard(p, static_cast<std::size_t>(i));
  if (!hinting_ && (!dragging_ || !pressed_)) return;
  // Where it would be put down: before or after a card, on a band.
  const auto [at, setup] = spotAt(now_);
  const QRect target = band(setup);
  const int place = static_cast<int>(at);
  p.setPen(QPen(t.accent, 3));
  const int x = labels + place * slot_ - gap / 2;
  p.drawLine(x, target.top() + 6, x, target.bottom() - 6);
}

std::pair<std::size_t, std::size_t> BoardCards::spotAt(const QPoint& at) const {
  const int shots = static_cast<int>(session_->project().shots.size());
  return {static_cast<std::size_t>(std::clamp((at.x() - labels + slot_ / 2) / slot_, 0, shots)), bandAt(at.y())};
}
void BoardCards::hint(const std::optional<QPoint>& at) {
  hinting_ = at.has_value();
  if (at) now_ = *at;
  update();
}

void BoardCards::paintBand(QPainter& p, std::size_t i) {
  const Theme& t = theme();
  const Setup& setup = *session_->project().setups[i];
  const QRect b = band(i);
  drawPanel(p, b);
  drawText(p, QRectF(12, b.top() + 8, labels - 18, 26), Qt::AlignLeft | Qt::AlignVCenter, q(setup.id),
           textFont(19, true), t.ink);
  drawText(p, QRectF(12, b.top() + 36, labels - 18, 16), Qt::AlignLeft | Qt::AlignVCenter, q(setup.name),
           textFont(12), t.ink);
  const std::size_t lights = setup.own_lights();
  QStringList what{lights == 1 ? tr("1 light") : tr("%1 lights").arg(lights)};
  if (setup.backdrop.kind != BackdropKind::none)
    what << tr("%1 to the wall").arg(q(length_text(setup.backdrop.distance, session_->units())));
  if (!setup.of.empty()) what << tr("varies %1").arg(q(setup.of));
  double y = b.top() + 53;
  for (const QString& line : what) {
    drawText(p, QRectF(12, y, labels - 18, 15), Qt::AlignLeft | Qt::AlignVCenter, line, textFont(11), t.quiet);
    y += 15;
  }
  double seconds = 0;
  for (const auto& shot : session_->project().shots) seconds += shot->setup == setup.id ? shot->screen_time : 0;
  drawText(p, QRectF(12, b.bottom() - 24, labels - 18, 16), Qt::AlignLeft | Qt::AlignVCenter,
           tr("%1 s").arg(q(fixed_text(seconds, 1))), numberFont(12), t.quiet);
}

/// From card to card in story order; between bands it runs down or up the gap.
void BoardCards::paintThread(QPainter& p, const QRect& sight) {
  const std::size_t shots = session_->project().shots.size();
  p.setPen(QPen(theme().accent, 2));
  p.setBrush(Qt::NoBrush);
  for (std::size_t i = 0; i + 1 < shots; ++i) {
    const QRect a = card(i), b = card(i + 1);
    if (b.left() < sight.left() - slot_ || a.right() > sight.right() + slot_) continue;
    const double y0 = a.top() + 14, y1 = b.top() + 14, x = (a.right() + b.left()) / 2.0;
    QPainterPath path(QPointF(a.right() + 1, y0));
    if (a.top() == b.top()) {
      path.lineTo(b.left(), y1);
    } else {
      const double way = y1 > y0 ? 6 : -6;
      path.cubicTo(x, y0, x, y0, x, y0 + way);
      path.lineTo(x, y1 - way);
      path.cubicTo(x, y1, x, y1, b.left(), y1);
    }
    p.drawPath(path);
  }
}

std::vector<ToldPart> BoardCards::parts() const {
  std::vector<ToldPart> list;
  const Project& p = session_->project();
  for (std::size_t i = 0; i < p.shots.size(); ++i) {
    const Setup* setup = by_id(p.setups, p.shots[i]->setup);
    list.push_back({tr("Shot %1: %2").arg(i + 1).arg(q(p.shots[i]->name)),
                    tr("%1 s, on %2")
                        .arg(q(fixed_text(p.shots[i]->screen_time, 2)), setup ? q(setup->name) : tr("no set-up")),
                    card(i), i == session_->shotIndex()});
  }
  return list;
}

void BoardCards::choose(std::size_t shot) {
  session_->selectShot(shot);
  emit wanted(card(shot));
  tellChosenPart();
}

void BoardCards::put(std::size_t shot, std::size_t place, std::size_t setup) {
  const auto& project = session_->project();
  if (setup >= project.setups.size() || place >= project.shots.size()) return;
  const auto moved = shot_moved(session_->document(), shot, place);
  QStringList said;
  if (moved) said << q(moved->title);
  Expected<Document> next = moved ? applied(session_->document(), *moved) : session_->document();
  if (bandOf(shot) != setup) {
    next = with_value(*next, "/shots/" + std::to_string(place) + "/setup", project.setups[setup]->id);
    said << tr("Shot %1 put on set-up %2").arg(shot + 1).arg(q(project.setups[setup]->id));
  }
  if (!next || said.isEmpty()) return;
  const Edit edit = edit_between(session_->document(), *next, said.join("; ").toStdString());
  if (const auto faults = validate(*next, edit); !faults.empty())
    return void(
        emit session_->message(tr("Not moved: %1; %2").arg(q(faults.front().message), q(faults.front().mend))));
  if (session_->keep(edit)) choose(place);
}

void BoardCards::mousePressEvent(QMouseEvent* event) {
  pressed_ = cardAt(event->position().toPoint());
  pressedAt_ = event->position().toPoint();
  dragging_ = false;
  if (pressed_) choose(*pressed_);
}
void BoardCards::mouseMoveEvent(QMouseEvent* event) {
  now_ = event->position().toPoint();
  if (!(event->buttons() & Qt::LeftButton) || !pressed_) {
    setCursor(cardAt(now_) ? Qt::OpenHandCursor : Qt::ArrowCursor);
    return;
  }
  dragging_ = dragging_ || (now_ - pressedAt_).manhattanLength() >= 8;
  update();
}
void BoardCards::mouseReleaseEvent(QMouseEvent*) {
  if (dragging_ && pressed_) {
    const int shots = static_cast<int>(session_->project().shots.size());
    int place = static_cast<int>(spotAt(now_).first);
    if (place > static_cast<int>(*pressed_)) --place;
    const std::size_t from = *pressed_;
    dragging_ = false;
    put(from, static_cast<std::size_t>(std::clamp(place, 0, shots - 1)), bandAt(now_.y()));
  }
  dragging_ = false;
  pressed_.reset();
  update();
}
void BoardCards::mouseDoubleClickEvent(QMouseEvent* event) {
  if (cardAt(event->position().toPoint())) emit opened();
}

void BoardCards::keyPressEvent(QKeyEvent* event) {
  const std::size_t at = session_->shotIndex(), count = session_->project().shots.size();
  if (count == 0) return QWidget::keyPressEvent(event);
  const bool control = event->modifiers() & Qt::ControlModifier;
  const std::size_t own = bandOf(at);
  switch (event->key()) {
    case Qt::Key_Left:
      return at == 0 ? void() : control ? put(at, at - 1, own) : choose(at - 1);
    case Qt::Key_Right:
      return at + 1 >= count ? void() : control ? put(at, at + 1, own) : choose(at + 1);
    case Qt::Key_Up:
    case Qt::Key_Down: {
      const bool down = event->key() == Qt::Key_Down;
      if (control) return down || own > 0 ? put(at, at, down ? own + 1 : own - 1) : void();
      // The nearest shot on a band above or below.
      std::optional<std::size_t> nearest;
      for (std::size_t i = 0; i < count; ++i) {
        if (down ? bandOf(i) <= own : bandOf(i) >= own) continue;
        const auto far = [&](std::size_t k) {
          return std::abs(static_cast<int>(bandOf(k)) - static_cast<int>(own)) * 1000 +
                 std::abs(static_cast<int>(k) - static_cast<int>(at));
        };
        if (!nearest || far(i) < far(*nearest)) nearest = i;
      }
      return nearest ? choose(*nearest) : void();
    }
    case Qt::Key_Home:
      return choose(0);
    case Qt::Key_End:
      return choose(count - 1);
    case Qt::Key_Return:
    case Qt::Key_Enter:
      emit opened();
      return;
    default:
      return QWidget::keyPressEvent(event);
  }
}

namespace {

/// What the thread says: how often the floor changes.
class ThreadNote : public QWidget {
 public:
  ThreadNote(Session* session, QWidget* parent) : QWidget(parent), session_(session) {
    setObjectName("threadNote");
    setFixedHeight(22);
    connect(session, &Session::changed, this, [this] { count(); });
    count();
  }

 protected:
  void paintEvent(QPaintEvent*) override {
    QPainter p(this);
    const double right = QFontMetricsF(textFont(12)).horizontalAdvance(told_) + 4;
    drawText(p, QRectF(0, 0, width() - right - 10, height()), Qt::AlignLeft | Qt::AlignVCenter,
             QObject::tr("The thread runs in story order; each step between bands is a change of set-up"),
             textFont(12), theme().quiet);
    drawText(p, QRectF(width() - right, 0, right, height()), Qt::AlignRight | Qt::AlignVCenter, told_,
             textFont(12), theme().ink);
  }

 private:
  void count() {
    const auto [steps, grouped] = floor_changes(session_->project());
    told_ = QObject::tr("%1 changes on the floor, %2 if grouped").arg(steps).arg(grouped);
    setAccessibleName(told_);
    update();
  }
  Session* session_;
  QString told_;
};

}  // namespace

BoardPage::BoardPage(Session* session, Foresight* foresight, QWidget* parent)
    : WindowPage(parent), session_(session), foresight_(foresight) {
  setObjectName("board");
  cards_ = new BoardCards(session, foresight, this);
  paper_ = new ShotPaper(session, foresight, this);
  scroll_ = new QScrollArea(this);
  scroll_->setObjectName("boardScroll");
  scroll_->setWidget(cards_);
  scroll_->setWidgetResizable(true);
  scroll_->viewport()->installEventFilter(this);
  scroll_->setFrameShape(QFrame::NoFrame);
  scroll_->setFocusPolicy(Qt::NoFocus);
  auto* tools = toolRow();
  shelf_ = new MoveShelf(this);
  auto* left = new QVBoxLayout;
  left->setSpacing(6);
  left->addWidget(new ThreadNote(session, this));
  left->addWidget(scroll_, 1);
  left->addLayout(tools);
  left->addWidget(shelf_);
  auto* all = new QHBoxLayout(this);
  all->setContentsMargins(20, 10, 20, 4);
  all->setSpacing(12);
  all->addLayout(left, 1);
  auto* sheet = new QScrollArea(this);  // a low window scrolls it
  sheet->setWidget(paper_);
  sheet->setWidgetResizable(true);
  sheet->setFrameShape(QFrame::NoFrame);
  sheet->setFocusPolicy(Qt::NoFocus);
  sheet->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  sheet->setFixedWidth(288);
  all->addWidget(sheet);
  connect(cards_, &BoardCards::wanted, this, [this](const QRect& place) {
    scroll_->ensureVisible(place.center().x(), place.center().y(), place.width() / 2, place.height() / 2 + 8);
  });
  connect(cards_, &BoardCards::opened, this, [this] { emit pageWanted("stage"); });
  connectMoves();
  connect(session_, &Session::changed, this, &BoardPage::askOutcomes);
  connect(session_, &Session::shotChanged, this, &BoardPage::askOutcomes);
}

/// What is done to shots, and what stops a move that is being made.
QHBoxLayout* BoardPage::toolRow() {
  auto* tools = new QHBoxLayout;
  tools->setSpacing(6);
  const auto button = [&](const QString& text, const char* name, const QString& tip, auto action) {
    auto* b = new WordButton(text, WordButton::Look::plain, this);
    b->setObjectName(name);
    b->setAccessibleName(tip);
    b->setToolTip(tip);
    connect(b, &WordButton::clicked, this, action);
    tools->addWidget(b);
    return b;
  };
  button(tr("Copy"), "boardCopy", tr("A copy of the shot on the same set-up"), [this] {
    act(with_shot_copied(session_->document(), session_->shotIndex(), false), tr("Shot copied"),
        session_->shotIndex() + 1);
  });
  button(tr("Copy set-up"), "boardCopySetup", tr("A copy of the shot with a set-up of its own"), [this] {
    act(with_shot_copied(session_->document(), session_->shotIndex(), true), tr("Shot copied with its set-up"),
        session_->shotIndex() + 1);
  });
  button(tr("Vary set-up"), "boardVary",
         tr("Put the shot on a variation of its set-up, which shares what is not changed in it"), [this] {
           act(with_setup_varied(session_->document(), session_->shotIndex()), tr("Set-up varied"),
               session_->shotIndex());
         });
  button(tr("Split"), "boardSplit", tr("Part the shot in two at the time cursor, or in its middle"),
         [this] { split(); });
  button(tr("Join"), "boardJoin", tr("This shot and the next as one"), [this] {
    act(with_shots_joined(session_->document(), session_->shotIndex()), tr("Shots joined"), session_->shotIndex());
  });
  button(tr("Take out"), "boardRemove", tr("Take the shot and its takes out of the film"),
         [this] { act(without_shot(session_->document(), session_->shotIndex()), tr("Shot taken out")); });
  tools->addStretch(1);
  button(tr("Paste a list"), "boardPaste", tr("Shots from plain words, one a line"), [this] { pasteList(); });
  button(tr("Read a table"), "boardTable", tr("Shots from a table (CSV), joined by id"),
         [this] { emit actionWanted(WindowAction::read_shots); });
  button(tr("+ shot"), "boardAdd", tr("Add a shot"),
         [this] { (new AddShotSheet(session_, foresight_, this))->open(); });
  making_ = new PlainLabel(this);
  making_->setObjectName("boardMaking");
  stopMaking_ = new WordButton(tr("Cancel"), WordButton::Look::chip, this);
  stopMaking_->setObjectName("boardStopMaking");
  stopMaking_->setCheckable(false);
  stopMaking_->setAccessibleName(tr("Stop making the move"));
  stopMaking_->hide();
  tools->insertWidget(6, making_);
  tools->insertWidget(7, stopMaking_);
  return tools;
}

/// Ready moves: wanted, dragged on to the cards, made on a worker.
void BoardPage::connectMoves() {
  connect(shelf_, &MoveShelf::wanted, this, [this](const QString& move) {
    makeMove(move, session_->project().shots.empty() ? 0 : session_->shotIndex() + 1);
  });
  const auto overCards = [this](const QPoint& global) {
    const QPoint in_view = scroll_->viewport()->mapFromGlobal(global);
    return scroll_->viewport()->rect().contains(in_view) ? std::optional(cards_->mapFromGlobal(global))
                                                         : std::nullopt;
  };
  connect(shelf_, &MoveShelf::dragged, this,
          [this, overCards](const QString&, const QPoint& global) { cards_->hint(overCards(global)); });
  connect(shelf_, &MoveShelf::dropped, this, [this, overCards](const QString& move, const QPoint& global) {
    cards_->hint({});
    const auto at = overCards(global);
    if (!at) return;
    const auto [place, setup] = cards_->spotAt(*at);
    const auto& setups = session_->project().setups;
    makeMove(move, place, setup < setups.size() ? setups[setup]->id : std::string());
  });
  connect(stopMaking_, &WordButton::clicked, this, [this] { foresight_->stopMove(move_); });
  connect(foresight_, &Foresight::moveStopped, this, [this](int number) {
    if (number == move_) notMaking();
  });
  connect(foresight_, &Foresight::moveMade, this,
          [this](int number, const Document& before, const std::shared_ptr<const Expected<MoveMade>>& made) {
            if (number == move_) moveMade(before, *made);
          });
}

/// How every move would stand here, roughly and before any lever.
void BoardPage::askOutcomes() {
  if (!isVisible() || session_->previewing()) return;
  const QPointer<BoardPage> self(this);
  outcomes_.ask(
      [self, document = session_->document(), after = session_->shotIndex()](const std::atomic<bool>& cancelled) {
        QHash<QString, Tally> outcomes;
        const Forecaster forecaster(quick_measure);
        for (const ReadyMove& move : ready_moves()) {
          const auto made = with_move(forecaster, document, move.id, after, {.levelling = false}, &cancelled);
          if (cancelled) return;
          if (!made) continue;
          outcomes[q(move.id)] = tally(made->levels);
        }
        later(self, [self, outcomes] { self->shelf_->setOutcomes(outcomes); });
      });
}

void BoardPage::makeMove(const QString& move, std::size_t place, const std::string& setup) {
  const ReadyMove* ready = ready_move(move.toStdString());
  if (!ready || session_->readOnly()) return;
  move_ = foresight_->askMove(session_->document(), ready->id, place, setup);
  making_->setText(tr("Making \"%1\"").arg(q(ready->title)));
  stopMaking_->show();
}

void BoardPage::notMaking() {
  move_ = 0;
  making_->clear();
  stopMaking_->hide();
}

void BoardPage::moveMade(const Document& before, const Expected<MoveMade>& made) {
  notMaking();
  if (!made) return void(emit session_->message(q(made.error().text())));
  keepMove(*session_, before, *made);
}

bool BoardPage::eventFilter(QObject* object, QEvent* event) {
  if (object == scroll_->viewport() && event->type() == QEvent::Resize) cards_->fitTo(scroll_->viewport()->size());
  return QWidget::eventFilter(object, event);
}

void BoardPage::takeFocus() { cards_->setFocus(); }

void BoardPage::act(const Expected<Document>& next, const QString& title, std::optional<std::size_t> then) {
  if (!next) return void(emit session_->message(q(next.error().text())));
  if (session_->keep(edit_between(session_->document(), *next, title.toStdString())) && then)
    session_->selectShot(*then);
}

/// At the time cursor where it stands inside the shot, else in the middle.
void BoardPage::split() {
  const Shot* shot = session_->shot();
  if (!shot) return;
  double at = shot->clock.screen_at(session_->setTime());
  if (at < 0.1 || at > shot->screen_time - 0.1) at = shot->screen_time / 2;
  const double frame = 1.0 / session_->project().timeline_rate;
  act(with_shot_split(session_->document(), session_->shotIndex(), std::round(at / frame) * frame),
      tr("Shot split at %1 s").arg(q(fixed_text(at, 2))));
}

void BoardPage::pasteList() { (new PasteSheet(session_, this))->open(); }

void BoardPage::paintEvent(QPaintEvent*) {
  QPainter p(this);
  p.fillRect(rect(), theme().ground);
}

}  // namespace cinnabar
