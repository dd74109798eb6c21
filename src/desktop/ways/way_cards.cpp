#include "cinnabar/desktop/ways/way_cards.h"

#include <QHBoxLayout>

#include "cinnabar/desktop/controls/controls.h"
#include "cinnabar/desktop/theme/theme.h"
#include "cinnabar/desktop/theme/words.h"

namespace cinnabar {
namespace {

constexpr double cardMargin = 6, pictureHeight = 54;

QColor inkOf(State tone) {
  const Theme& t = theme();
  switch (tone) {
    case State::level:
      return t.good;
    case State::leaning:
      return t.leaningInk;
    case State::out:
      return t.accent;
    case State::unknown:
      break;
  }
  return t.quiet;
}

}  // namespace

WayCard::WayCard(const QString& of, int index, const Way& way, bool changes, QWidget* parent)
    : QWidget(parent), index_(index), way_(way) {
  setObjectName(QString("%1-way-%2").arg(of).arg(index + 1));
  try_ = new WordButton(tr("Try"), WordButton::Look::chip, this);
  try_->setObjectName(QString("%1-try-%2").arg(of).arg(index + 1));
  try_->setAccessibleName(tr("Try: %1").arg(way.title));
  apply_ = new WordButton(tr("Apply"), WordButton::Look::plain, this);
  apply_->setObjectName(QString("%1-apply-%2").arg(of).arg(index + 1));
  apply_->setAccessibleName(tr("Apply: %1").arg(way.title));
  try_->setVisible(changes);
  apply_->setVisible(changes);
  connect(try_, &WordButton::toggled, this, [this](bool on) { emit tried(index_, on); });
  connect(apply_, &WordButton::clicked, this, [this] { emit taken(index_); });
  QString tip = way.why.isEmpty() ? way.title : way.why;
  QStringList lines;
  for (const WayLine& line : way.lines) lines << line.text;
  if (!lines.isEmpty()) tip += "\n" + lines.join("\n");
  setToolTip(plainTip(tip));
  setAccessibleName(tr("%1: %2").arg(way.title, lines.join(", ")));
  setMinimumWidth(132);
  setMaximumWidth(330);
}

void WayCard::setPicture(const QImage& picture) {
  picture_ = picture;
  update();
}
void WayCard::setTried(bool tried) {
  const QSignalBlocker quiet(try_);
  try_->setChecked(tried);
  try_->update();
}

void WayCard::resizeEvent(QResizeEvent*) {
  const QSize a = try_->sizeHint(), b = apply_->sizeHint();
  try_->setGeometry(static_cast<int>(cardMargin), height() - 24, a.width(), 19);
  apply_->setGeometry(static_cast<int>(cardMargin) + a.width() + 5, height() - 24, b.width(), 19);
}

void WayCard::paintEvent(QPaintEvent*) {
  QPainter p(this);
  p.setRenderHint(QPainter::Antialiasing);
  p.setRenderHint(QPainter::SmoothPixmapTransform);
  const Theme& t = theme();
  p.setPen(QPen(try_->isChecked() ? t.accent : t.line, 1));
  p.setBrush(t.dark ? t.panel.lighter(118) : t.ground);
  p.drawRoundedRect(QRectF(rect()).adjusted(0.5, 0.5, -0.5, -0.5), 2, 2);
  // The picture at the left, as wide as its frame; a tall frame takes less, and leaves its words more.
  double wide = std::min(0.42 * width(), pictureHeight * 16.0 / 9.0);
  if (!picture_.isNull()) wide = std::min(wide, pictureHeight * picture_.width() / std::max(1, picture_.height()));
  const QRectF at(cardMargin, cardMargin, wide,
                  picture_.isNull() ? wide * 9 / 16 : wide * picture_.height() / std::max(1, picture_.width()));
  p.fillRect(at, t.mat);
  if (!picture_.isNull()) p.drawImage(at, picture_);
  const double x = at.right() + 7, right = width() - cardMargin;
  const double last = height() - 26;
  // Whole lines only; what does not fit is in the tooltip.
  const auto wrapped = [&p](QString text, const QRectF& room, const QFont& font, const QColor& ink) {
    const QFontMetricsF metrics(font);
    const auto tall = [&] { return metrics.boundingRect(room, Qt::TextWordWrap, text).height(); };
    while (text.size() > 8 && tall() > room.height() + 2)
      text = text.left(text.size() - 4).trimmed() + QChar(0x2026);
    p.setFont(font);
    p.setPen(ink);
    p.drawText(room, Qt::AlignLeft | Qt::AlignTop | Qt::TextWordWrap, text);
    return tall();
  };
  const double under =
      wrapped(way_.title, {x, cardMargin - 1, right - x, pictureHeight}, textFont(11, true), t.ink);
  // Where there is a reason it stands under the title, and the levels under the picture.
  const double whyAt = cardMargin + under + 2;
  if (!way_.why.isEmpty() && last - whyAt > 12)
    wrapped(way_.why, {x, whyAt, right - x, last - whyAt}, textFont(10), t.quiet);
  const double across = way_.why.isEmpty() ? width() - 2 * cardMargin : x - cardMargin - 4;
  double y = cardMargin + pictureHeight + 3;
  for (std::size_t i = 0; i < way_.lines.size() && y + 13 <= last; ++i) {
    const bool more = y + 26 > last && i + 1 < way_.lines.size();
    drawText(
        p, {cardMargin, y, across, 13}, Qt::AlignLeft | Qt::AlignVCenter,
        more ? tr("%1, and %2 more").arg(way_.lines[i].text).arg(way_.lines.size() - i - 1) : way_.lines[i].text,
        textFont(10.5), inkOf(way_.lines[i].tone));
    y += 13;
  }
}

WayCards::WayCards(const QString& name, Session* session, Foresight* foresight, QWidget* parent)
    : QWidget(parent), name_(name), session_(session), foresight_(foresight), seeker_(foresight->seeker()) {
  setObjectName(name + "-ways");
  row_ = new QHBoxLayout(this);
  row_->setContentsMargins(0, 0, 0, 0);
  row_->setSpacing(6);
  cancel_ = new WordButton(tr("Cancel"), WordButton::Look::plain, this);
  cancel_->setObjectName(name + "-cancel");
  cancel_->hide();
  connect(cancel_, &WordButton::clicked, this, [this] { clear(tr("Not looked for")); });
  connect(seeker_, &Seeker::found, this, [this](int number, const std::shared_ptr<const Ways>& ways) {
    if (number != number_) return;
    ways_ = ways;
    setSeeking(false);
    show(*ways);
  });
  connect(seeker_, &Seeker::pictured, this, [this](int number, int way, const QImage& picture) {
    if (number == number_ && way < static_cast<int>(cards_.size()))
      cards_[static_cast<std::size_t>(way)]->setPicture(picture);
  });
  connect(session_, &Session::changed, this, &WayCards::lookAgain);
  connect(session_, &Session::shotChanged, this, [this] { clear(); });
}

void WayCards::seek(WaySearch search) {
  clear();
  askedOf_ = session_->document();
  note_ = tr("Looking");
  setAccessibleName(note_);
  setSeeking(true);
  cancel_->setGeometry(70, 6, cancel_->sizeHint().width(), 20);
  number_ = seeker_->seek(askedOf_, session_->shotIndex(), std::move(search));
  update();
}

/// The strip's counts wait while somebody waits for an answer.
void WayCards::setSeeking(bool seeking) {
  if (seeking == seeking_) return;
  seeking_ = seeking;
  cancel_->setVisible(seeking);
  foresight_->holdBack(seeking);
}

void WayCards::clear(const QString& note) {
  if (tried_ >= 0) {
    tried_ = -1;
    session_->dropPreview();
  }
  if (seeking_ || ways_) seeker_->stop();
  number_ = 0;
  setSeeking(false);
  ways_.reset();
  pointed_ = -1;
  for (WayCard* card : cards_) {
    row_->removeWidget(card);
    card->hide();
    card->setObjectName({});  // found no more
    for (QObject* child : card->children()) child->setObjectName({});
    card->deleteLater();
  }
  cards_.clear();
  while (QLayoutItem* item = row_->takeAt(0)) delete item;
  note_ = note;
  setAccessibleName(note);
  tellGhosts();
  update();
}

void WayCards::show(const Ways& ways) {
  note_ = ways.list.empty() ? ways.none : QString();
  setAccessibleName(
      ways.list.empty() ? note_ : counted(static_cast<qsizetype>(ways.list.size()), tr("%1 way"), tr("%1 ways")));
  for (std::size_t w = 0; w < ways.list.size(); ++w) {
    const bool changes = !edit_between(askedOf_, ways.list[w].after, "").changes.empty();
    auto* card = new WayCard(name_, static_cast<int>(w), ways.list[w], changes, this);
    connect(card, &WayCard::tried, this, &WayCards::attempt);
    connect(card, &WayCard::taken, this, &WayCards::take);
    connect(card, &WayCard::pointed, this, [this](int index, bool at) {
      pointed_ = at ? index : -1;
      tellGhosts();
    });
    row_->addWidget(card, 1);
    card->show();
    cards_.push_back(card);
  }
  row_->addStretch(0);
  tellGhosts();
  update();
}

void WayCards::attempt(int way, bool on) {
  tried_ = on ? way : -1;
  for (std::size_t w = 0; w < cards_.size(); ++w) cards_[w]->setTried(static_cast<int>(w) == tried_);
  if (on) {
    const Way& one = ways_->list[static_cast<std::size_t>(way)];
    session_->preview(edit_between(askedOf_, one.after, one.title.toStdString()));
  } else {
    session_->dropPreview();
  }
  tellGhosts();
}

void WayCards::take(int way) {
  const Way one = ways_->list[static_cast<std::size_t>(way)];
  const Document before = askedOf_;
  clear();
  const Edit edit = edit_between(before, one.after, one.title.toStdString());
  if (edit.changes.empty()) return clear(tr("It is so already; nothing to change"));
  if (session_->keep(edit)) clear(tr("Kept: %1").arg(one.title));
}

/// What was found for a document that is no more is taken back.
void WayCards::lookAgain() {
  if (!(ways_ || seeking_) || session_->previewing()) return;
  if (tried_ >= 0) {  // dropped elsewhere
    tried_ = -1;
    for (WayCard* card : cards_) card->setTried(false);
    tellGhosts();
  }
  if (!edit_between(askedOf_, session_->document(), "").changes.empty())
    clear(tr("The project has changed; look again"));
}

void WayCards::hideEvent(QHideEvent*) { clear(); }

void WayCards::tellGhosts() {
  std::vector<std::shared_ptr<const Project>> projects;
  if (ways_)
    for (const Way& way : ways_->list) projects.push_back(way.project);
  emit ghosts(projects, tried_ >= 0 ? tried_ : pointed_);
}

void WayCards::paintEvent(QPaintEvent*) {
  QPainter p(this);
  if (note_.isEmpty()) return;
  p.setFont(textFont(11.5));
  p.setPen(theme().quiet);
  p.drawText(QRectF(4, 8, std::max(60.0, width() - 12.0), height() - 10.0),
             Qt::AlignLeft | Qt::AlignTop | Qt::TextWordWrap, note_);
}

void drawWaysHead(QWidget& panel, const QString& title, const QString& words) {
  QPainter p(&panel);
  const Theme& t = theme();
  drawPanel(p, panel.rect());
  const double wide = QFontMetricsF(textFont(11, true)).horizontalAdvance(title) + 12;
  drawText(p, {10, 6, wide, 15}, Qt::AlignLeft | Qt::AlignVCenter, title, textFont(11, true), t.ink);
  drawText(p, {10 + wide + 6, 6, panel.width() - wide - 26, 15}, Qt::AlignLeft | Qt::AlignVCenter, words,
           textFont(11), t.quiet);
}

}  // namespace cinnabar
