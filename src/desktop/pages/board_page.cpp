#include "cinnabar/desktop/pages/board_page.h"

#include <QHBoxLayout>
#include <QKeyEvent>
#include <QMouseEvent>
#include <QScrollArea>
#include <QVBoxLayout>
#include <cmath>

#include "cinnabar/base/text.h"
#include "cinnabar/desktop/theme/theme.h"
#include "cinnabar/desktop/widgets/controls.h"
#include "cinnabar/desktop/widgets/paste_sheet.h"
#include "cinnabar/desktop/widgets/shot_paper.h"
#include "cinnabar/project/new_shot.h"
#include "cinnabar/project/shot_edits.h"

namespace cinnabar {
namespace {

QString q(const std::string& s) { return QString::fromStdString(s); }
constexpr int gap = 12, textHeight = 74, headingHeight = 30, leastWidth = 210;

}  // namespace

BoardCards::BoardCards(Session* session, Foresight* foresight, QWidget* parent)
    : QWidget(parent), session_(session), foresight_(foresight) {
  setObjectName("boardCards");
  setAccessibleName(tr("Cards of the shots"));
  setAccessibleDescription(
      tr("Arrows choose a shot, Control with Left and Right moves it, Enter opens it on the Stage"));
  setFocusPolicy(Qt::StrongFocus);
  setMouseTracking(true);
  connect(session_, &Session::changed, this, [this] {
    arrange();
    update();
  });
  connect(session_, &Session::shotChanged, this, [this] { update(); });
  connect(foresight_, &Foresight::glances, this, [this] { update(); });
  arrange();
}

void BoardCards::setBySetup(bool on) {
  bySetup_ = on;
  arrange();
  update();
}

void BoardCards::arrange() {
  const Project& p = session_->project();
  const int room = std::max(leastWidth, width() - gap), columns = std::max(1, room / (leastWidth + gap)),
            w = room / columns - gap, h = w * 9 / 16 + textHeight;
  cards_.assign(p.shots.size(), {});
  order_.clear();
  headings_.clear();
  int y = gap;
  const auto lay = [&](const std::vector<std::size_t>& shots) {
    for (std::size_t k = 0; k < shots.size(); ++k) {
      const int column = static_cast<int>(k) % columns;
      if (k > 0 && column == 0) y += h + gap;
      cards_[shots[k]] = QRect(gap + column * (w + gap), y, w, h);
      order_.push_back(shots[k]);
    }
    if (!shots.empty()) y += h + gap;
  };
  std::vector<std::size_t> all;
  for (std::size_t i = 0; i < p.shots.size(); ++i) all.push_back(i);
  if (bySetup_) {
    for (const auto& setup : p.setups) {
      std::vector<std::size_t> own;
      for (const std::size_t i : all)
        if (p.shots[i]->setup == setup->id) own.push_back(i);
      if (own.empty()) continue;
      headings_.emplace_back(y, tr("Set-up %1, %2").arg(q(setup->id), q(setup->name)));
      y += headingHeight;
      lay(own);
    }
  } else {
    lay(all);
  }
  if (minimumHeight() != y) setMinimumHeight(y);
}

QSize BoardCards::sizeHint() const { return {3 * (leastWidth + gap), minimumHeight()}; }
void BoardCards::resizeEvent(QResizeEvent*) { arrange(); }
QRect BoardCards::card(std::size_t shot) const { return shot < cards_.size() ? cards_[shot] : QRect(); }

std::optional<std::size_t> BoardCards::cardAt(const QPoint& at) const {
  for (std::size_t i = 0; i < cards_.size(); ++i)
    if (cards_[i].contains(at)) return i;
  return std::nullopt;
}

void BoardCards::paintEvent(QPaintEvent* event) {
  QPainter p(this);
  p.setRenderHint(QPainter::Antialiasing);
  const Theme& t = theme();
  for (const auto& [y, text] : headings_)
    drawText(p, QRectF(gap, y, width() - 2 * gap, headingHeight - 6), Qt::AlignLeft | Qt::AlignBottom, text,
             textFont(13, true), t.ink);
  if (cards_.empty())
    drawText(p, QRectF(gap, gap, width() - 2 * gap, 24), Qt::AlignLeft | Qt::AlignVCenter,
             tr("No shots yet. Paste a list, read a table, or press \"+ shot\"."), textFont(13), t.quiet);
  for (std::size_t i = 0; i < cards_.size(); ++i)
    if (cards_[i].adjusted(-4, -4, 4, 4).intersects(event->rect())) paintCard(p, i);
  if (dragging_ && over_) {  // where it would go
    const QRect c = cards_[*over_];
    p.setPen(QPen(t.accent, 3));
    const bool after = now_.x() > c.center().x();
    const int x = after ? c.right() + gap / 2 : c.left() - gap / 2;
    p.drawLine(x, c.top(), x, c.bottom());
  }
}

void BoardCards::paintCard(QPainter& p, std::size_t i) {
  const Theme& t = theme();
  const Shot& shot = *session_->project().shots[i];
  QRectF c = cards_[i];
  const bool chosen = i == session_->shotIndex();
  p.setPen(QPen(chosen ? t.accent : t.line, chosen ? 2 : 1));
  p.setBrush(t.panel);
  p.drawRoundedRect(c.adjusted(0.5, 0.5, -0.5, -0.5), 2, 2);
  if (chosen && hasFocus()) drawFocus(p, c.adjusted(3, 3, -3, -3));
  const QRectF picture(c.left() + 6, c.top() + 6, c.width() - 12, c.height() - textHeight - 6);
  p.fillRect(picture, t.mat);
  const ShotGlance* glance = foresight_->glance(shot.id);
  if (glance && !glance->picture.isNull()) {
    const double k =
        std::min(picture.width() / glance->picture.width(), picture.height() / glance->picture.height());
    const QSizeF size(glance->picture.width() * k, glance->picture.height() * k);
    p.setRenderHint(QPainter::SmoothPixmapTransform);
    p.drawImage(QRectF(picture.center() - QPointF(size.width() / 2, size.height() / 2), size), glance->picture);
  }
  const double x = c.left() + 8, room = c.width() - 16;
  double y = picture.bottom() + 5;
  drawText(p, {x, y, 26, 18}, Qt::AlignLeft | Qt::AlignVCenter, QString::number(i + 1), numberFont(14, true),
           chosen ? t.accent : t.ink);
  const QString length = tr("%1 s").arg(q(fixed_text(shot.screen_time, 1)));
  drawText(p, {x + 26, y, room - 76, 18}, Qt::AlignLeft | Qt::AlignVCenter, q(shot.name), textFont(13, true), t.ink);
  drawText(p, {x + room - 48, y, 48, 18}, Qt::AlignRight | Qt::AlignVCenter, length, numberFont(12), t.ink);
  y += 20;
  QStringList how;
  if (!shot.size.empty()) how << q(shot.size);
  if (shot.camera) how << tr("%1 mm").arg(q(number_text(shot.camera->focal * 1e3, 3)));
  if (!bySetup_) how << tr("set-up %1").arg(q(shot.setup));
  for (const KeyedTrack& track : shot.tracks)
    if (track.target == "turntable" || track.target == "camera.slide" || track.target == "camera.focus")
      how << (track.target == "turntable" ? tr("turns") : track.target == "camera.slide" ? tr("slides") : tr("focus pulled"));
  drawText(p, {x, y, room, 15}, Qt::AlignLeft | Qt::AlignVCenter, how.join(", "), textFont(11), t.quiet);
  y += 15;
  QStringList serves;
  if (!shot.role.empty()) serves << q(shot.role);
  for (const std::string& f : shot.features) serves << tr("shows %1").arg(q(f.substr(f.find('/') + 1)));
  const Json* json = session_->document().find("shots", shot.id);
  const QString notes = json ? q(json->value("notes", "")) : QString();
  if (!notes.isEmpty()) serves << notes;
  drawText(p, {x, y, room - 66, 15}, Qt::AlignLeft | Qt::AlignVCenter, serves.join("; "), textFont(11), t.ink);
  if (glance && glance->known)
    drawText(p, {x + room - 66, y, 66, 15}, Qt::AlignRight | Qt::AlignVCenter,
             glance->out ? tr("%1 out").arg(glance->out) : glance->leaning ? tr("%1 leaning").arg(glance->leaning) : tr("level"),
             textFont(11, glance->out > 0), glance->out ? t.accent : glance->leaning ? t.leaning : t.good);
}

void BoardCards::choose(std::size_t shot) {
  session_->selectShot(shot);
  emit wanted(card(shot));
}

void BoardCards::move(std::size_t from, std::size_t to) {
  if (from == to) return;
  const auto next = with_shot_moved(session_->document(), from, to);
  if (!next) return;
  const QString title = to == 0 ? tr("Shot %1 moved to the start").arg(from + 1)
                                : tr("Shot %1 moved after %2").arg(from + 1).arg(to > from ? to + 1 : to);
  session_->keep(edit_between(session_->document(), *next, title.toStdString()));
  choose(to);
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
  if (!dragging_ && (now_ - pressedAt_).manhattanLength() < 8) return;
  dragging_ = true;
  if (const auto over = cardAt(now_)) over_ = over;
  update();
}
void BoardCards::mouseReleaseEvent(QMouseEvent*) {
  if (dragging_ && pressed_ && over_) {
    // Before or after the card it was let go on.
    std::size_t to = *over_ + (now_.x() > cards_[*over_].center().x() ? 1 : 0);
    if (to > *pressed_) --to;
    const std::size_t from = *pressed_;
    dragging_ = false;
    move(from, to);
  }
  dragging_ = false;
  over_.reset();
  pressed_.reset();
  update();
}
void BoardCards::mouseDoubleClickEvent(QMouseEvent* event) {
  if (cardAt(event->position().toPoint())) emit opened();
}

void BoardCards::keyPressEvent(QKeyEvent* event) {
  const std::size_t at = session_->shotIndex();
  const auto place = std::find(order_.begin(), order_.end(), at);
  if (place == order_.end()) return QWidget::keyPressEvent(event);
  const bool control = event->modifiers() & Qt::ControlModifier;
  const auto beside = [&](int dy) -> std::size_t {  // the card above or below
    const QPoint wantedAt(cards_[at].center().x(), cards_[at].center().y());
    std::size_t best = at;
    int least = 1 << 30;
    for (const std::size_t i : order_) {
      const int below = (cards_[i].center().y() - wantedAt.y()) * dy;
      if (below <= 4) continue;
      const int far = below * 4 + std::abs(cards_[i].center().x() - wantedAt.x());
      if (far < least) least = far, best = i;
    }
    return best;
  };
  switch (event->key()) {
    case Qt::Key_Left:
      if (control) return at > 0 ? move(at, at - 1) : void();
      return place == order_.begin() ? void() : choose(place[-1]);
    case Qt::Key_Right:
      if (control) return at + 1 < cards_.size() ? move(at, at + 1) : void();
      return place + 1 == order_.end() ? void() : choose(place[1]);
    case Qt::Key_Up:
      return choose(beside(-1));
    case Qt::Key_Down:
      return choose(beside(1));
    case Qt::Key_Home:
      return choose(order_.front());
    case Qt::Key_End:
      return choose(order_.back());
    case Qt::Key_Return:
    case Qt::Key_Enter:
      emit opened();
      return;
    default:
      return QWidget::keyPressEvent(event);
  }
}

BoardPage::BoardPage(Session* session, Foresight* foresight, QWidget* parent) : QWidget(parent), session_(session) {
  setObjectName("board");
  cards_ = new BoardCards(session, foresight, this);
  paper_ = new ShotPaper(session, foresight, this);
  scroll_ = new QScrollArea(this);
  scroll_->setObjectName("boardScroll");
  scroll_->setWidget(cards_);
  scroll_->setWidgetResizable(true);
  scroll_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  scroll_->setFrameShape(QFrame::NoFrame);
  scroll_->setFocusPolicy(Qt::NoFocus);
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
  auto* story = new WordButton(tr("Story"), WordButton::Look::bench, this);
  auto* setups = new WordButton(tr("Set-ups"), WordButton::Look::bench, this);
  story->setObjectName("board-story");
  setups->setObjectName("board-setups");
  story->setToolTip(tr("In the order of the film"));
  setups->setToolTip(tr("By what stands on the floor"));
  story->setChecked(true);
  for (WordButton* b : {story, setups}) {
    tools->addWidget(b);
    connect(b, &WordButton::clicked, this, [this, story, setups, b] {
      cards_->setBySetup(b == setups);
      story->setChecked(b == story);
      setups->setChecked(b == setups);
    });
  }
  tools->addStretch(1);
  button(tr("Copy"), "boardCopy", tr("A copy of the shot on the same set-up"), [this] {
    act(with_shot_copied(session_->document(), session_->shotIndex(), false), tr("Shot copied"),
        session_->shotIndex() + 1);
  });
  button(tr("Copy with set-up"), "boardCopySetup", tr("A copy of the shot with a set-up of its own"), [this] {
    act(with_shot_copied(session_->document(), session_->shotIndex(), true), tr("Shot copied with its set-up"),
        session_->shotIndex() + 1);
  });
  button(tr("Split"), "boardSplit", tr("Part the shot in two at the time cursor, or in its middle"),
         [this] { split(); });
  button(tr("Join"), "boardJoin", tr("This shot and the next as one"), [this] {
    act(with_shots_joined(session_->document(), session_->shotIndex()), tr("Shots joined"), session_->shotIndex());
  });
  button(tr("Take out"), "boardRemove", tr("Take the shot and its takes out of the film"), [this] {
    act(without_shot(session_->document(), session_->shotIndex()), tr("Shot taken out"));
  });
  tools->addSpacing(10);
  button(tr("Paste a list"), "boardPaste", tr("Shots from plain words, one a line"), [this] { pasteList(); });
  button(tr("Read a table"), "boardTable", tr("Shots from a table (CSV), joined by id"), [this] { emit tableWanted(); });
  button(tr("+ shot"), "boardAdd", tr("Add a shot"), [this] {
    Document next = session_->document();
    const bool first = !session_->shot();
    const std::size_t at = first ? 0 : session_->shotIndex() + 1;
    const Json* like = first ? nullptr : next.list("shots")[session_->shotIndex()].get();
    insert_shot(next, new_shot(next, like, first ? "First shot" : "New shot"), at);
    act(next, tr("Shot added"), at);
  });
  auto* left = new QVBoxLayout;
  left->setSpacing(6);
  left->addLayout(tools);
  left->addWidget(scroll_, 1);
  auto* all = new QHBoxLayout(this);
  all->setContentsMargins(20, 10, 20, 4);
  all->setSpacing(12);
  all->addLayout(left, 1);
  paper_->setFixedWidth(280);
  all->addWidget(paper_);
  connect(cards_, &BoardCards::wanted, this, [this](const QRect& place) {
    scroll_->ensureVisible(place.center().x(), place.center().y(), place.width() / 2, place.height() / 2 + 8);
  });
  connect(cards_, &BoardCards::opened, this, &BoardPage::stageWanted);
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
