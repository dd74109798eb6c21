#include "cinnabar/desktop/watch/watch_sheet.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QPushButton>
#include <QVBoxLayout>
#include <cmath>

#include "cinnabar/desktop/controls/controls.h"
#include "cinnabar/desktop/controls/sheets.h"
#include "cinnabar/desktop/theme/theme.h"
#include "cinnabar/desktop/theme/words.h"

namespace cinnabar {
namespace {

constexpr int longest_side = 480;  // pixels, of a picture
constexpr double line_left = 8, shots_top = 14, shots_high = 22;

}  // namespace

WatchSheet::WatchSheet(Session* session, FilmMaker* maker, QWidget* parent)
    : QDialog(parent), session_(session), maker_(maker) {
  beginSheet(this, "watch", tr("Watch it"), parent->size() - QSize(60, 60));
  screen_ = new FilmScreen(this);
  line_ = new FilmLine(this);
  const auto chip = [this](const QString& text, const char* name, const QString& forPeople) {
    auto* button = new WordButton(text, WordButton::Look::chip, this);
    button->setObjectName(name);
    button->setCheckable(true);
    button->setAccessibleName(forPeople);
    return button;
  };
  play_ = chip(tr("Play"), "watchPlay", tr("Play the film"));
  loop_ = chip(tr("Round"), "watchRound", tr("Play it round and round"));
  words_ = chip(tr("words"), "watchWords", tr("Where the words stand"));
  words_->setChecked(true);
  spans_ = new QComboBox(this);
  spans_->setObjectName("watchSpan");
  spans_->setAccessibleName(tr("How much of it is played"));
  spans_->addItems({tr("the whole spot"), tr("this shot"), tr("the cut after it")});
  shapes_ = new QComboBox(this);
  shapes_->setObjectName("watchShape");
  shapes_->setAccessibleName(tr("Shape of the film"));
  for (const Deliverable& d : session->project().deliverables) shapes_->addItem(q(d.name));
  shapes_->setVisible(shapes_->count() > 1);
  says_ = new PlainLabel(this);
  says_->setObjectName("watchSays");
  says_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);  // a long name takes no room from the rest
  auto* go = new QPushButton(tr("To the Stage, here"), this);
  go->setObjectName("watchGo");
  auto* back = new QPushButton(tr("Back"), this);
  back->setObjectName("watchBack");
  for (QPushButton* button : {go, back}) button->setAutoDefault(false);
  auto* row = new QHBoxLayout;
  for (QWidget* w : std::initializer_list<QWidget*>{play_, loop_, spans_, words_, shapes_}) row->addWidget(w);
  row->addWidget(says_, 1);
  row->addWidget(go);
  row->addWidget(back);
  auto* all = new QVBoxLayout(this);
  all->addWidget(screen_, 1);
  all->addWidget(line_);
  all->addLayout(row);

  connectParts(go, back);
  position_ = session->project().starts_at(session->shotIndex());
  line_->setFocus();
  ask();
}

/// What each part does, and what it follows.
void WatchSheet::connectParts(QPushButton* go, QPushButton* back) {
  clock_.setTimerType(Qt::PreciseTimer);
  clock_.setInterval(std::max(8, static_cast<int>(1000.0 / session_->project().timeline_rate)));
  connect(&clock_, &QTimer::timeout, this, &WatchSheet::advance);
  connect(play_, &WordButton::clicked, this, &WatchSheet::play);
  connect(spans_, &QComboBox::activated, this, [this] {
    cut_ = place().shot;
    if (chosen() == Span::cut) setPosition(span().first);
    ask();
  });
  connect(words_, &WordButton::clicked, this, [this] { screen_->update(); });
  connect(shapes_, &QComboBox::activated, this, &WatchSheet::ask);
  connect(go, &QPushButton::clicked, this, [this] {
    const FilmMaker::Place here = place();
    const double local = position_ - session_->project().starts_at(here.shot);
    session_->selectShot(here.shot);
    session_->setSetTime(session_->shot()->clock.set_at(std::max(0.0, local)));
    close();
  });
  connect(back, &QPushButton::clicked, this, &QDialog::close);
  connect(maker_, &FilmMaker::came, this, [this] {
    tell();
    line_->update();
    if (!screen_->shown()) screen_->update();
  });
  connect(session_, &Session::changed, this, [this] {
    if (session_->project().shots.empty()) return void(close());
    setPosition(position_);
    ask();
  });
}

WatchSheet::~WatchSheet() { maker_->stop(); }

const Deliverable* WatchSheet::shape() const {
  const auto& list = session_->project().deliverables;
  const auto i = static_cast<std::size_t>(std::max(0, shapes_->currentIndex()));
  return i < list.size() ? &list[i] : nullptr;
}

/// Pictures for what is played, from here on.
void WatchSheet::ask() {
  const double aspect = shape() ? static_cast<double>(shape()->width) / shape()->height : 16.0 / 9;
  const auto even = [](double pixels) { return std::max(16, 2 * static_cast<int>(std::lround(pixels / 2))); };
  const QSize size = aspect >= 1 ? QSize(longest_side, even(longest_side / aspect))
                                 : QSize(even(longest_side * aspect), longest_side);
  std::vector<std::size_t> shots;
  for (std::size_t i = 0; i < session_->project().shots.size(); ++i) {
    const bool wanted = chosen() == Span::spot || (chosen() == Span::shot && i == place().shot) ||
                        (chosen() == Span::cut && (i == cut_ || i == cut_ + 1));
    if (wanted) shots.push_back(i);
  }
  maker_->ask(session_->document(), session_->project(), size, shots, place());
  tell();
  line_->moved();
  screen_->update();
}

WatchSheet::Span WatchSheet::chosen() const { return static_cast<Span>(std::max(0, spans_->currentIndex())); }

std::pair<double, double> WatchSheet::span() const {
  const Project& project = session_->project();
  if (chosen() == Span::spot) return {0.0, project.screen_time()};
  if (chosen() == Span::cut && cut_ < project.shots.size()) {
    const double at = project.starts_at(cut_) + project.shots[cut_]->screen_time;
    return {std::max(0.0, at - 1.0), std::min(project.screen_time(), at + 1.0)};
  }
  const double from = project.starts_at(place().shot);
  return {from, from + project.shots[place().shot]->screen_time};
}

FilmMaker::Place WatchSheet::place() const {
  const Project& project = session_->project();
  FilmMaker::Place at;
  while (at.shot + 1 < project.shots.size() && position_ >= project.starts_at(at.shot + 1) - 1e-9) ++at.shot;
  const double local = position_ - project.starts_at(at.shot);
  at.frame = std::clamp(static_cast<long>(std::floor(local * project.timeline_rate + 1e-6)), 0L,
                        FilmMaker::frames(project, at.shot) - 1);
  return at;
}

std::optional<QRectF> WatchSheet::words() const {
  const Deliverable* d = shape();
  if (!d || !d->words || !words_->isChecked()) return std::nullopt;
  if (session_->project().screen_time() - position_ > d->words->last_seconds) return std::nullopt;
  return QRectF(d->words->x, d->words->y, d->words->width, d->words->height);
}

void WatchSheet::setPosition(double seconds) {
  const auto before = place();
  position_ = std::clamp(seconds, 0.0, std::max(0.0, session_->project().screen_time()));
  tell();
  if (place() == before) return line_->update();
  line_->moved();
  screen_->update();
}

void WatchSheet::play(bool on) {
  const auto [from, to] = span();
  if (on && (position_ < from || position_ >= to - 0.5 / session_->project().timeline_rate)) setPosition(from);
  since_.start();
  on ? clock_.start() : clock_.stop();
  play_->setChecked(on);
  play_->setText(on ? tr("Halt") : tr("Play"));
}

void WatchSheet::advance() {
  const auto [from, to] = span();  // of the shot that it is in before it goes on
  const double next = position_ + static_cast<double>(since_.nsecsElapsed()) * 1e-9;
  since_.restart();
  if (next < to) return setPosition(next);
  if (loop_->isChecked()) return setPosition(from);
  setPosition(to - 1.0 / session_->project().timeline_rate);
  play(false);
}

void WatchSheet::step(long pictures) {
  play(false);
  const double rate = session_->project().timeline_rate;
  setPosition((std::floor(position_ * rate + 1e-6) + static_cast<double>(pictures)) / rate);
}

void WatchSheet::toShot(int by) {
  const auto shot = static_cast<long>(place().shot) + by;
  const auto last = static_cast<long>(session_->project().shots.size()) - 1;
  setPosition(session_->project().starts_at(static_cast<std::size_t>(std::clamp(shot, 0L, last))));
  cut_ = place().shot;
  if (chosen() == Span::cut) setPosition(span().first);
  if (chosen() != Span::spot) ask();
}

void WatchSheet::tell() {
  const Project& project = session_->project();
  const FilmMaker::Place here = place();
  const auto [there, all] = maker_->count();
  says_->setText(tr("%1 of %2 s  \u00B7  %3 of %4 pictures  \u00B7  shot %5, %6")
                     .arg(q(fixed_text(position_, 1)), q(fixed_text(project.screen_time(), 1)))
                     .arg(there)
                     .arg(all)
                     .arg(here.shot + 1)
                     .arg(q(name_or(project.shots[here.shot]->name, project.shots[here.shot]->id))));
}

void WatchSheet::keyPressEvent(QKeyEvent* event) {
  const auto [from, to] = span();
  switch (event->key()) {
    case Qt::Key_Space:
      return play(!playing());
    case Qt::Key_Left:
      return step(-1);
    case Qt::Key_Right:
      return step(1);
    case Qt::Key_Up:
      return toShot(-1);
    case Qt::Key_Down:
      return toShot(1);
    case Qt::Key_Home:
      return setPosition(from);
    case Qt::Key_End:
      return setPosition(to - 1.0 / session_->project().timeline_rate);
    case Qt::Key_R:
      return loop_->toggle();
    default:
      QDialog::keyPressEvent(event);
  }
}

FilmScreen::FilmScreen(WatchSheet* sheet) : QWidget(sheet), sheet_(sheet) {
  setObjectName("watchScreen");
  setAccessibleName(tr("The film"));
  setMinimumSize(320, 180);
}

void FilmScreen::paintEvent(QPaintEvent*) {
  QPainter p(this);
  p.setRenderHint(QPainter::SmoothPixmapTransform);
  p.fillRect(rect(), theme().mat);
  const FilmMaker::Place place = sheet_->place();
  shown_ = sheet_->maker().kept(place);
  const auto image = sheet_->maker().nearest(place);
  if (!image || image->isNull())
    return drawText(p, rect(), Qt::AlignCenter,
                    sheet_->session()->project().shots[place.shot]->camera ? tr("Its first picture is being made")
                                                                           : tr("This shot has no camera yet"),
                    textFont(12), QColor(235, 228, 216));
  const QSizeF size = QSizeF(image->size()).scaled(QSizeF(rect().size()) - QSizeF(16, 16), Qt::KeepAspectRatio);
  const QRectF box(QPointF((width() - size.width()) / 2, (height() - size.height()) / 2), size);
  p.drawImage(box, *image);
  if (const auto words = sheet_->words()) {
    const QRectF area(box.left() + words->x() * box.width(), box.top() + words->y() * box.height(),
                      words->width() * box.width(), words->height() * box.height());
    p.setPen(QPen(QColor(230, 200, 140, 200), 1, Qt::DashLine));
    p.drawRect(area);
    drawText(p, area.adjusted(6, 4, -4, 0), Qt::AlignLeft | Qt::AlignTop, tr("words"), textFont(11),
             QColor(230, 200, 140));
  }
}

FilmLine::FilmLine(WatchSheet* sheet)
    : Painted("watchLine", tr("The film from beginning to end"),
              tr("Left and Right go a picture on, Up and Down a shot, Space plays, R plays it round"), sheet),
      sheet_(sheet) {
  setFixedHeight(48);
}

double FilmLine::across(double seconds) const {
  const double all = std::max(1e-3, sheet_->session()->project().screen_time());
  return line_left + seconds / all * (width() - 2 * line_left);
}

QRectF FilmLine::box(std::size_t shot) const {
  const Project& project = sheet_->session()->project();
  const double from = across(project.starts_at(shot)),
               to = across(project.starts_at(shot) + project.shots[shot]->screen_time);
  return {from, shots_top, to - from, shots_high};
}

std::vector<ToldPart> FilmLine::parts() const {
  std::vector<ToldPart> list;
  const Project& project = sheet_->session()->project();
  for (std::size_t i = 0; i < project.shots.size(); ++i)
    list.push_back({tr("Shot %1: %2").arg(i + 1).arg(q(project.shots[i]->name)),
                    tr("%1 s").arg(q(fixed_text(project.shots[i]->screen_time, 1))), box(i).toRect(),
                    i == sheet_->place().shot});
  return list;
}

void FilmLine::paintEvent(QPaintEvent*) {
  QPainter p(this);
  const Theme& t = theme();
  const Project& project = sheet_->session()->project();
  if (project.beats_per_minute) {
    const double beat = 60.0 / *project.beats_per_minute;
    for (int k = 0; k * beat <= project.screen_time() + 1e-6 && k < 4000; ++k) {
      const double x = across(k * beat);
      p.setPen(QPen(k % 4 ? t.quiet : t.ink, 1));
      p.drawLine(QPointF(x, shots_top - 2), QPointF(x, shots_top - (k % 4 ? 6 : 10)));
    }
  }
  for (std::size_t i = 0; i < project.shots.size(); ++i) {
    const QRectF b = box(i);
    const bool here = i == sheet_->place().shot;
    p.setPen(QPen(here ? t.accent : t.line, here ? 1.6 : 1));
    p.setBrush(t.panel);
    p.drawRect(b.adjusted(0.5, 0.5, -0.5, -0.5));
    drawText(p, b.adjusted(6, 0, -4, 0), Qt::AlignLeft | Qt::AlignVCenter,
             QString("%1 %2").arg(i + 1).arg(q(project.shots[i]->name)), textFont(11), here ? t.ink : t.quiet);
    // Which pictures are there: a line under the shot, with gaps.
    const long all = FilmMaker::frames(project, i);
    p.setPen(QPen(t.good, 3));
    for (long k = 0, from = -1; k <= all; ++k) {
      const bool there = k < all && sheet_->maker().kept({i, k});
      if (there && from < 0) from = k;
      if (there || from < 0) continue;
      const auto at = [&](long f) {
        return b.left() + b.width() * static_cast<double>(f) / static_cast<double>(all);
      };
      p.drawLine(QPointF(at(from), b.bottom() + 4), QPointF(std::max(at(k), at(from) + 1), b.bottom() + 4));
      from = -1;
    }
  }
  const double x = across(sheet_->position());
  p.setPen(QPen(t.accent, 2));
  p.drawLine(QPointF(x, 2), QPointF(x, height() - 4));
  if (hasFocus()) drawFocus(p, QRectF(rect()).adjusted(1, 1, -1, -1));
}

void FilmLine::pointed(double x) {
  const double all = sheet_->session()->project().screen_time();
  sheet_->setPosition(std::clamp((x - line_left) / std::max(1.0, width() - 2 * line_left), 0.0, 1.0) * all);
}
void FilmLine::mousePressEvent(QMouseEvent* event) {
  sheet_->play(false);
  pointed(event->position().x());
}
void FilmLine::mouseMoveEvent(QMouseEvent* event) {
  if (event->buttons() & Qt::LeftButton) pointed(event->position().x());
}
void FilmLine::keyPressEvent(QKeyEvent* event) { event->ignore(); }  // the sheet knows them

}  // namespace cinnabar
