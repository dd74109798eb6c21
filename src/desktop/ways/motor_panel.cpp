#include "cinnabar/desktop/ways/motor_panel.h"

#include <QHBoxLayout>
#include <QKeyEvent>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

#include "cinnabar/base/text.h"
#include "cinnabar/desktop/controls/painted.h"
#include "cinnabar/desktop/controls/unit_fields.h"
#include "cinnabar/desktop/theme/theme.h"
#include "cinnabar/desktop/theme/words.h"
#include "cinnabar/desktop/ways/way_cards.h"
#include "cinnabar/desktop/workers/later.h"
#include "cinnabar/formats/motion_program.h"

namespace cinnabar {
namespace {

QString axisName(std::size_t axis) {
  static const char* names[] = {QT_TRANSLATE_NOOP("cinnabar::MotorPanel", "slide, right"),
                                QT_TRANSLATE_NOOP("cinnabar::MotorPanel", "lift"),
                                QT_TRANSLATE_NOOP("cinnabar::MotorPanel", "travel, back"),
                                QT_TRANSLATE_NOOP("cinnabar::MotorPanel", "tilt"),
                                QT_TRANSLATE_NOOP("cinnabar::MotorPanel", "pan"),
                                QT_TRANSLATE_NOOP("cinnabar::MotorPanel", "turntable")};
  return QCoreApplication::translate("cinnabar::MotorPanel", names[axis]);
}
QString placeText(std::size_t axis, double place) {
  const QString number = tidyMinus(q(fixed_text(place, axis_turns(axis) ? 2 : 1)));
  return number + (axis_turns(axis) ? QChar(0x00B0) : QString(" mm"));
}

}  // namespace

/// How many recorded pixels the last run was off, over the shot.
class StrayedPlot : public Painted {
 public:
  explicit StrayedPlot(QWidget* parent)
      : Painted("strayedPlot", QObject::tr("Off the plan, in recorded pixels"), {}, parent) {
    setFocusPolicy(Qt::NoFocus);
    setMinimumWidth(120);
  }
  void show(const StrayedRun& run) {
    run_ = run;
    setAccessibleDescription(words() + "; " + behind());
    update();
  }
  [[nodiscard]] QString words() const {
    if (run_.moments.empty()) return QObject::tr("nothing was run yet");
    return QObject::tr("off by %1 px at most, at %2 s")
        .arg(q(number_text(run_.worst_px, 2)), q(fixed_text(run_.worst_at, 2)));
  }
  [[nodiscard]] QString behind() const {
    if (run_.moments.empty()) return QObject::tr("what it reports is laid over the plan");
    return tidyMinus(QObject::tr("%1 ms behind the plan; %2 px with that allowed for")
                         .arg(q(fixed_text(1e3 * run_.behind, 0)), q(number_text(run_.worst_px_shifted, 2))));
  }

 protected:
  void paintEvent(QPaintEvent*) override {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const Theme& t = theme();
    const QRectF plot(26, 4, width() - 32.0, height() - 36.0);
    drawText(p, QRectF(0, height() - 30.0, width(), 15), Qt::AlignLeft | Qt::AlignVCenter, words(), textFont(10.5),
             t.ink);
    drawText(p, QRectF(0, height() - 15.0, width(), 14), Qt::AlignLeft | Qt::AlignVCenter, behind(), textFont(10),
             t.quiet);
    double top = 1.0;
    while (top < run_.worst_px && top < 1e6) top *= 2.0;
    p.setPen(QPen(t.line, 1));
    for (const double part : {0.0, 0.5, 1.0}) {
      const double y = plot.bottom() - part * plot.height();
      p.drawLine(QPointF(plot.left(), y), QPointF(plot.right(), y));
      drawText(p, {0, y - 7, 22, 14}, Qt::AlignRight | Qt::AlignVCenter, q(number_text(part * top, 2)),
               numberFont(9), t.quiet);
    }
    if (run_.moments.empty()) return;
    const double end = std::max(1e-3, run_.moments.back().set_time);
    QPolygonF line;
    for (const Strayed& moment : run_.moments)
      line << QPointF(plot.left() + moment.set_time / end * plot.width(),
                      plot.bottom() - std::min(moment.px, top) / top * plot.height());
    p.setPen(QPen(t.accent, 1.4));
    p.drawPolyline(line);
  }

 private:
  StrayedRun run_;
};

MotorPanel::MotorPanel(Session* session, QWidget* parent) : QWidget(parent), session_(session) {
  setObjectName("motorPanel");
  setAccessibleName(tr("By motor"));
  const auto button = [this](const char* id, const QString& text, const QString& tip) {
    auto* b = new WordButton(text, WordButton::Look::plain, this);
    b->setObjectName(id);
    b->setCheckable(false);
    b->setToolTip(tip);
    return b;
  };
  socket_ = new SocketLine(&link_,
                           {.stem = "motor",
                            .usual = "cinnabar-motion",
                            .name = tr("The controller's socket"),
                            .tip = tr("The local socket at which the controller listens"),
                            .join = tr("Speak to the controller at that socket")},
                           this);
  load_ = button("motorLoad", tr("Load"),
                 tr("Send this shot's program and have it held against the limits; nothing moves"));
  start_ = button("motorStart", tr("Go to start"), tr("Slowly to where the shot's move begins"));
  run_ = button("motorRun", tr("Run"), tr("The move, with its run-up"));
  stop_ = button("motorStop", tr("Stop"),
                 tr("Comes to rest at once (Esc). It is no emergency stop: have one in reach"));
  release_ = button("motorRelease", tr("Release"), tr("After a stop, once all is clear"));
  state_ = new PlainLabel(this);
  state_->setObjectName("motorState");
  words_ = new PlainLabel(this);
  words_->setObjectName("motorWords");
  words_->setWordWrap(true);
  words_->setAlignment(Qt::AlignTop | Qt::AlignLeft);
  plot_ = new StrayedPlot(this);

  auto* all = new QHBoxLayout(this);
  all->setContentsMargins(10, 26, 8, 5);
  all->setSpacing(12);
  auto* left = new QVBoxLayout;
  left->setSpacing(3);
  auto* top = new QHBoxLayout;
  top->setSpacing(6);
  top->addWidget(socket_, 1);
  top->addWidget(state_);
  auto* does = new QHBoxLayout;
  does->setSpacing(6);
  for (WordButton* b : {load_, start_, run_, stop_, release_}) does->addWidget(b);
  does->addStretch(1);
  left->addLayout(top);
  left->addLayout(does);
  left->addWidget(words_, 1);
  all->addLayout(left, 40);
  all->addWidget(axes(), 30);
  all->addWidget(plot_, 30);

  connectParts();
  refresh();
}

/// What each part does, and what it follows.
void MotorPanel::connectParts() {
  connect(socket_, &SocketLine::joining, this, [this] { say({}, false); });
  connect(load_, &WordButton::clicked, this, &MotorPanel::load);
  connect(start_, &WordButton::clicked, &link_, &MotorLink::start);
  connect(run_, &WordButton::clicked, &link_, &MotorLink::run);
  connect(stop_, &WordButton::clicked, &link_, &MotorLink::stop);
  connect(release_, &WordButton::clicked, &link_, &MotorLink::release);
  connect(&link_, &MotorLink::changed, this, &MotorPanel::refresh);
  connect(&link_, &MotorLink::told, this, &MotorPanel::say);
  connect(&link_, &MotorLink::ran, this, &MotorPanel::lay);
  connect(session_, &Session::changed, this, [this] {
    if (isVisible() && !session_->previewing()) lookAtShot();
  });
  connect(session_, &Session::shotChanged, this, [this] {
    if (isVisible()) lookAtShot();
  });
}

/// A row an axis that the shot drives: where it stands, and a little less or more.
QWidget* MotorPanel::axes() {
  auto* side = new QWidget(this);
  auto* lines = new QVBoxLayout(side);
  lines->setContentsMargins(0, 0, 0, 0);
  lines->setSpacing(1);
  const auto field = [this](const QString& name, const char* id, double value, double step) {
    auto* f = new NumberField(this);
    f->setSpec({name, id, value, step, [](double v) { return q(number_text(v)); },
                [](const QString& text) -> std::optional<double> {
                  const auto v = parse_number(text.trimmed().toStdString());
                  return v && *v > 0 && *v <= 1000 ? v : std::nullopt;
                }});
    connect(f, &NumberField::refused, session_, &Session::message);
    const auto put = [f](double v) {
      auto spec = f->spec();
      spec.value = std::clamp(v, 0.01, 1000.0);
      f->setSpec(spec);
    };
    connect(f, &NumberField::entered, this, put);
    connect(f, &NumberField::previewed, this, put);
    return f;
  };
  step_ = field(tr("Step, mm or \u00b0"), "motorStep", 5, 0.5);
  speed_ = field(tr("A second"), "motorSpeed", 10, 1);
  auto* by = new QHBoxLayout;
  by->setSpacing(6);
  by->addWidget(step_);
  by->addWidget(speed_);
  lines->addLayout(by);
  for (std::size_t a = 0; a < axis_count; ++a) {
    AxisRow& r = rows_[a];
    r.row = new QWidget(side);
    auto* line = new QHBoxLayout(r.row);
    line->setContentsMargins(0, 0, 0, 0);
    line->setSpacing(5);
    r.name = new PlainLabel(QString("%1  %2").arg(QChar(axis_letters[a])).arg(axisName(a)), r.row);
    r.place = new PlainLabel(r.row);
    r.place->setAlignment(Qt::AlignRight | Qt::AlignVCenter);
    const auto nudge = [&](const QString& text, const char* id, double sign, const QString& name) {
      auto* b = new WordButton(text, WordButton::Look::small, r.row);
      b->setObjectName(QString("%1-%2").arg(id).arg(QChar(axis_letters[a])));
      b->setCheckable(false);
      b->setAccessibleName(name.arg(axisName(a)));
      b->setToolTip(name.arg(axisName(a)));
      connect(b, &WordButton::clicked, this,
              [this, a, sign] { link_.jog(a, sign * step_->spec().value, speed_->spec().value); });
      return b;
    };
    r.less = nudge(QString(QChar(0x2212)), "motorLess", -1, tr("One step less: %1"));
    r.more = nudge("+", "motorMore", 1, tr("One step more: %1"));
    line->addWidget(r.name, 1);
    line->addWidget(r.place);
    line->addWidget(r.less);
    line->addWidget(r.more);
    lines->addWidget(r.row);
  }
  lines->addStretch(1);
  return side;
}

/// The shot's program and what it drives, worked out on a worker; what is loaded is not run while it is another.
void MotorPanel::lookAtShot() {
  const int asked = ++asked_;
  refresh();
  const QPointer<MotorPanel> self(this);
  looker_.ask([self, asked, project = session_->project(), at = session_->shotIndex()](const std::atomic<bool>&) {
    Move move;
    if (at < project.shots.size()) {
      move.shot = project.shots[at]->id;
      for (const DrivenAxis& axis : driven_axes(*project.shots[at]))
        move.driven[axis_letters.find(axis.letter)] = move.any = true;
      const auto program = motion_program(project, at);
      if (program) {
        move.program = *program;
        std::vector<std::string> lines = split(*program, '\n');
        if (const auto read = read_motion_program(lines)) move.begins = read->shot_begins();
      } else {
        move.impossible = program.error().text();
      }
    }
    move.project = project;
    later(self, [self, asked, move = std::move(move)] {
      if (asked != self->asked_) return;
      self->seen_ = asked;
      self->move_ = move;
      const bool was = self->stale_;
      self->stale_ = self->link_.loaded() && move.any && move.shot == self->loaded_.shot &&
                     move.program != self->loaded_.program;
      if (self->stale_ != was)
        self->say(self->stale_ ? tr("The move is another since it was loaded; load it again") : QString(),
                  self->stale_);
      self->refresh();
    });
  });
}

void MotorPanel::refresh() {
  const QString state = link_.state();
  const bool joined = link_.joined() && !state.isEmpty(), still = state == "idle" || state == "ready";
  const bool own =
      seen_ == asked_ && move_.shot == loaded_.shot && move_.program == loaded_.program && link_.loaded();
  for (std::size_t a = 0; a < axis_count; ++a) {
    rows_[a].row->setVisible(move_.driven[a]);
    rows_[a].place->setText(joined ? placeText(a, link_.places()[a]) : QString(QChar(0x2014)));
    rows_[a].less->setEnabled(joined && still);
    rows_[a].more->setEnabled(joined && still);
  }
  load_->setEnabled(joined && still && seen_ == asked_ && move_.any);
  start_->setEnabled(still && own);
  run_->setEnabled(state == "ready" && own);
  stop_->setEnabled(joined && state != "stopped");
  release_->setEnabled(state == "stopped");
  if (const bool moving = state == "moving"; moving != watching_) {
    moving ? qApp->installEventFilter(this) : qApp->removeEventFilter(this);
    watching_ = moving;
  }
  state_->setText(state == "idle"      ? tr("at rest")
                  : state == "ready"   ? tr("at the start")
                  : state == "stopped" ? tr("stopped")
                  : state == "moving"  ? tr("moving, set %1 s").arg(tidyMinus(q(fixed_text(link_.setTime(), 1))))
                                       : tr("not joined"));
  // A refusal first; then that there is nothing to drive; then what came about, or how to begin.
  const bool nothing = seen_ == asked_ && !move_.any && !refusal_;
  words_->setText(nothing
                      ? tr("This shot moves nothing that a controller drives: a slide, a travel, a pan, a tilt or "
                           "a turntable.")
                  : told_.isEmpty() ? tr("Try a move slowly and without the product first, with a real emergency "
                                         "stop in reach. Local rules come first.")
                                    : told_);
  const QString look = QString("color: %1;").arg((refusal_ ? theme().accent : theme().ink).name());
  if (words_->styleSheet() != look) words_->setStyleSheet(look);
}

void MotorPanel::say(const QString& text, bool refusal) {
  told_ = text;
  refusal_ = refusal;
  refresh();
}

void MotorPanel::load() {
  if (!move_.impossible.empty()) return say(q(move_.impossible), true);
  loaded_ = move_;
  stale_ = false;
  say({}, false);
  link_.load(loaded_.program, loaded_.begins);
}

/// Laid over the plan on a worker.
void MotorPanel::lay(const std::vector<ReportedPlaces>& reports) {
  const QPointer<MotorPanel> self(this);
  layer_.ask([self, of = loaded_, reports](const std::atomic<bool>& cancelled) {
    const auto shot = std::find_if(of.project.shots.begin(), of.project.shots.end(),
                                   [&](const auto& one) { return one->id == of.shot; });
    if (shot == of.project.shots.end()) return;
    const StrayedRun run = strayed(of.project, **shot, reports);
    if (cancelled) return;
    later(self, [self, run] {
      self->last_ = run;
      self->plot_->show(run);
      if (!run.moments.empty())
        self->say(tr("Gone through: %1; %2.").arg(self->plot_->words(), self->plot_->behind()), false);
    });
  });
}

bool MotorPanel::eventFilter(QObject* watched, QEvent* event) {
  const bool key = event->type() == QEvent::KeyPress || event->type() == QEvent::ShortcutOverride;
  if (!key || static_cast<QKeyEvent*>(event)->key() != Qt::Key_Escape) return QWidget::eventFilter(watched, event);
  link_.stop();
  return true;
}

void MotorPanel::showEvent(QShowEvent*) { lookAtShot(); }

void MotorPanel::paintEvent(QPaintEvent*) {
  drawWaysHead(
      *this, tr("By motor"),
      tr("hands, hair and straps off what moves and out of where it pinches; an emergency stop in reach"));
}

}  // namespace cinnabar
