#include "cinnabar/desktop/pages/stage_page.h"

#include <QHBoxLayout>
#include <QStackedWidget>
#include <QVBoxLayout>
#include <algorithm>

#include "cinnabar/base/text.h"
#include "cinnabar/desktop/board/add_shot_sheet.h"
#include "cinnabar/desktop/controls/controls.h"
#include "cinnabar/desktop/stage/floor_view.h"
#include "cinnabar/desktop/stage/in_hand.h"
#include "cinnabar/desktop/stage/ladder_view.h"
#include "cinnabar/desktop/stage/lens_view.h"
#include "cinnabar/desktop/stage/levels_panel.h"
#include "cinnabar/desktop/stage/lights_panel.h"
#include "cinnabar/desktop/theme/theme.h"
#include "cinnabar/desktop/theme/words.h"
#include "cinnabar/desktop/ways/effects_panel.h"
#include "cinnabar/desktop/ways/expose_panel.h"
#include "cinnabar/desktop/ways/hand_panel.h"
#include "cinnabar/desktop/ways/light_ways_panel.h"
#include "cinnabar/desktop/ways/meter_panel.h"
#include "cinnabar/desktop/ways/mirror_panel.h"
#include "cinnabar/desktop/ways/modes_panel.h"
#include "cinnabar/desktop/ways/motor_panel.h"
#include "cinnabar/desktop/ways/solve_panel.h"
#include "cinnabar/desktop/ways/wish_panel.h"
#include "cinnabar/scene/view.h"

namespace cinnabar {
namespace {

QString summary(const Session& s) {
  const Shot* shot = s.shot();
  if (!shot) return QObject::tr("No shot yet");
  QStringList parts{QObject::tr("Shot %1").arg(s.shotIndex() + 1)};
  if (s.setup()) parts << QObject::tr("set-up %1, %2").arg(q(s.setup()->id), q(s.setup()->name));
  if (shot->camera) {
    const ShotOptics o = shot_optics(s.project(), *shot->camera);
    parts << QObject::tr("%1 mm at %2")
                 .arg(q(number_text(shot->camera->focal * 1e3, 3)),
                      q(length_text(length(shot->camera->place - shot->camera->aim), s.units())))
          << "f/" + q(number_text(shot->camera->f_number, 3)) << q(shutter_text(shot->camera->shutter_time))
          << "ISO " + q(number_text(shot->camera->iso, 6))
          << QObject::tr("%1 per second").arg(q(number_text(o.rate, 5)));
  }
  return parts.join("   ");
}

/// A line of text that follows the session.
class Summary : public QWidget {
 public:
  Summary(Session* s, QWidget* parent) : QWidget(parent), session_(s) {
    setObjectName("summary");
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
    setFixedHeight(24);
    setAccessibleName(summary(*session_));
    connect(s, &Session::changed, this, [this] {
      setAccessibleName(summary(*session_));
      update();
    });
  }

 protected:
  void paintEvent(QPaintEvent*) override {
    QPainter p(this);
    drawText(p, rect(), Qt::AlignLeft | Qt::AlignVCenter, summary(*session_), textFont(11), theme().quiet);
  }

 private:
  Session* session_;
};

}  // namespace

StagePage::StagePage(Session* session, Foresight* foresight, PictureMaker* maker, QWidget* parent)
    : WindowPage(parent), session_(session), foresight_(foresight) {
  setObjectName("stage");
  buildBenches();
  effectsSeen_ = new EffectsSeen(session, this);
  floor_ = new FloorView(session, this);
  floor_->setEffects(effectsSeen_);
  lens_ = new LensView(session, maker, this);
  connect(session, &Session::changed, this, &StagePage::showSupports);
  connect(session, &Session::shotChanged, this, [this] {
    showSupports();
    floor_->setAngles({}), floor_->setStrays({});  // until the new shot's picture is there
  });
  levels_ = new LevelsPanel(session, foresight, this);
  auto* ladder = new LadderView(session, foresight, this);
  ladder->setEffects(effectsSeen_);
  foot_ = new QStackedWidget(this);
  foot_->setFixedHeight(154);

  auto* middle = new QWidget(this);
  auto* under = new QVBoxLayout(middle);
  under->setContentsMargins(0, 0, 0, 0);
  under->setSpacing(6);
  under->addWidget(lens_, 1);
  under->addLayout(overlays());
  // Shared by their stretches alone, whatever they would like.
  middle->setMinimumWidth(300);
  for (QWidget* w : {static_cast<QWidget*>(floor_), middle})
    w->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
  auto* seen = seen_ = new QHBoxLayout;
  seen->setSpacing(10);
  seen->addWidget(floor_, 44);
  seen->addWidget(middle, 48);
  auto* left = new QVBoxLayout;
  left->setSpacing(8);
  left->addLayout(seen, 1);
  left->addWidget(foot_);
  auto* columns = columns_ = new QHBoxLayout;
  columns->setSpacing(10);
  columns->addLayout(left, 93);
  columns->addWidget(levels_, 27);
  auto* all = new QVBoxLayout(this);
  all->setContentsMargins(20, 6, 20, 2);
  all->setSpacing(8);
  all->addLayout(benches_);
  all->addLayout(columns, 1);
  all->addWidget(ladder);

  around_ = {floor_, foot_, levels_, ladder};
  connect(lens_, &LensView::pictureShown, this, &StagePage::showAngles);
  connect(lens_, &LensView::pictureShown, this, [this] {
    if (const auto picture = lens_->picture()) floor_->setStrays(picture->strays);
  });
  connect(lens_, &LensView::wholeWindowAsked, this, [this] { setLensAlone(!lensAlone_); });
  connect(lens_, &LensView::placeRead, this, [this] {
    auto* wish = qobject_cast<WishPanel*>(foot_->currentWidget());
    if (!wish) return;
    if (const auto met = lens_->placeMet()) wish->takePlace(*met);
  });
  setBench("light");
}

/// The benches, what each can be asked for besides, and the shot's settings in a line.
void StagePage::buildBenches() {
  using Look = WordButton::Look;
  benches_ = new QHBoxLayout;
  benches_->setSpacing(6);
  const auto button = [this](const QString& text, Look look, const char* id, const QString& tip) {
    auto* b = new WordButton(text, look, this);
    b->setObjectName(id);
    b->setToolTip(tip);
    benches_->addWidget(b);
    return b;
  };
  const auto bench = [&](const QString& text, const char* name, Foot foot, const QString& tip) {
    auto* b = button(text, Look::bench, qPrintable(QString("bench-%1").arg(name)), tip);
    benchList_.push_back({b, name, foot});
    connect(b, &WordButton::clicked, this, [this, name] { setBench(name); });
  };
  bench(tr("Place"), "place", Foot::hand, tr("Things move with what they are aimed at"));
  bench(tr("Light"), "light", Foot::hand, tr("Things go round what they are aimed at"));
  bench(tr("Move"), "move", Foot::move, tr("What moves, and moves worked out for what they are to do"));
  bench(tr("Expose"), "expose", Foot::expose, tr("What gives light and what takes it, in stops"));
  bench(tr("Effects"), "effects", Foot::effects,
        tr("What is poured, thrown, let fall, sprayed or steams, and when"));
  benches_->addSpacing(10);
  const auto asks = [&](const char* of, const QString& text, const char* id, Foot foot, const QString& tip) {
    auto* b = button(text, Look::chip, id, tip);
    asks_.push_back({b, of, foot});
    connect(b, &WordButton::clicked, this, [this, foot](bool on) { setFoot(on ? foot : footOf(bench_)); });
  };
  const auto shows = [&](const char* of, const QString& text, const char* id, const char* overlay,
                         const QString& tip) {
    auto* b = button(text, Look::chip, id, tip);
    asks_.push_back({b, of, std::nullopt});
    connect(b, &WordButton::toggled, this, [this, overlay](bool on) { lens_->setOverlay(overlay, on); });
  };
  asks("light", tr("A wish"), "askWish", Foot::wish,
       tr("Say what is to be seen, and be told where things have to stand"));
  asks("light", tr("Ways to light it"), "askWays", Foot::ways,
       tr("Arrangements to begin from, and lights to do without"));
  asks("light", tr("What it mirrors"), "askMirrors", Foot::mirrors,
       tr("The room as the product sees it, unrolled; put a light or a card where it looks"));
  asks("light", tr("Point meter"), "askMeter", Foot::meter,
       tr("Lux, white and who gives it at pins, and a lamp made to fit what a hand meter reads"));
  shows("light", tr("Shadow only"), "showShadows", "Shadow only",
        tr("What direct light is kept from each place, by what stands before it or since it is turned away"));
  asks("move", tr("By hand"), "askHand", Foot::by_hand,
       tr("Where to put tape, how to count, and what a missed mark is in the picture"));
  asks("move", tr("By motor"), "askMotor", Foot::motor,
       tr("A motion controller goes through it, and how far off it was is told"));
  shows("move", tr("Start to end"), "showStages", "Start to end",
        tr("The products' outlines as the shot begins, half-way and as it ends, on the lens"));
  asks("expose", tr("Modes"), "askModes", Foot::modes,
       tr("What each mode of the cameras lacks for each shot, and what it costs in light"));
  shows("expose", tr("Bands"), "showBands", "Bands",
        tr("The picture as the lamps' pulses meet the sensor's readout, row by row, where the kit knows them"));
  auto* add = new WordButton(tr("+ shot"), Look::plain, this);
  add->setObjectName("addShot");
  add->setAccessibleName(tr("Add a shot"));
  benches_->addSpacing(10);
  benches_->addWidget(new Summary(session_, this), 1);
  benches_->addWidget(add);
  connect(add, &WordButton::clicked, this, [this] { (new AddShotSheet(session_, foresight_, this))->open(); });
}

/// Under floor and lens: In hand and the lights, or what a bench has in their place; made when first asked for.
QWidget* StagePage::makeFoot(Foot foot) {
  const auto withGhosts = [this](auto* panel) {
    connect(panel->cards(), &WayCards::ghosts, floor_, &FloorView::setGhosts);
    return panel;
  };
  switch (foot) {
    case Foot::hand: {
      auto* both = new QWidget(this);
      auto* row = new QHBoxLayout(both);
      row->setContentsMargins(0, 0, 0, 0);
      row->setSpacing(10);
      auto* lights = new LightsPanel(session_, foresight_, both);
      connect(lights, &LightsPanel::soloed, lens_, &LensView::setSolo);
      connect(lens_, &LensView::pictureShown, lights, [this, lights] {
        if (const auto picture = lens_->picture()) lights->setOnBackdrop(picture->on_backdrop);
      });
      row->addWidget(new InHand(session_, foresight_, both), 44);
      row->addWidget(lights, 48);
      return both;
    }
    case Foot::wish: {
      auto* wish = withGhosts(new WishPanel(session_, foresight_, this));
      connect(wish, &WishPanel::unmirroredChanged, this, &StagePage::showAngles);
      return wish;
    }
    case Foot::ways:
      return withGhosts(new LightWaysPanel(session_, foresight_, this));
    case Foot::expose:
      return withGhosts(new ExposePanel(session_, foresight_, this));
    case Foot::mirrors: {
      auto* mirrors = new MirrorPanel(session_, this);
      connect(lens_, &LensView::pictureShown, mirrors, [this, mirrors] { mirrors->look(lens_->picture()); });
      mirrors->look(lens_->picture());
      return mirrors;
    }
    case Foot::meter: {
      auto* meter = new MeterPanel(session_, this);
      connect(meter, &MeterPanel::placeWanted, lens_, [this, meter] { meter->takePlace(lens_->placeMet()); });
      connect(meter, &MeterPanel::pinChosen, lens_, &LensView::setPin);
      connect(meter, &MeterPanel::pinChosen, floor_, &FloorView::setPin);
      return meter;
    }
    case Foot::move: {
      auto* move = new SolvePanel("move", session_, foresight_, this);
      move->setHead(tr("A move"), tr("what it is to do; its tracks are worked out, and tried on the whole shot"));
      std::vector<SolverKind> moves = solver_kinds();
      std::erase_if(moves, [](const SolverKind& one) { return one.effect; });
      move->offerKinds(std::move(moves));
      return withGhosts(move);
    }
    case Foot::effects:
      return new EffectsPanel(session_, foresight_, effectsSeen_, this);
    case Foot::motor:
      return new MotorPanel(session_, this);
    case Foot::by_hand:
      return new HandPanel(session_, this);
    case Foot::modes:
      return new ModesPanel(session_, this);
  }
  return nullptr;
}

QHBoxLayout* StagePage::overlays() {
  auto* overlays = new QHBoxLayout;
  overlays->setSpacing(4);
  for (const char* name : {"Stop lines", "Focus discs", "Smear strokes", "Copy space", "Frames", "Clip"}) {
    auto* chip = new WordButton(tr(name), WordButton::Look::small, this);
    chip->setObjectName(QString("overlay-%1").arg(QString(name).toLower().replace(' ', '-')));
    chip->setChecked(lens_->overlay(name));
    connect(chip, &WordButton::toggled, this, [this, name](bool on) { lens_->setOverlay(name, on); });
    overlays->addWidget(chip);
  }
  overlays->addStretch(1);
  auto* compare = new WordButton(tr("Compare"), WordButton::Look::small, this);
  compare->setObjectName("compare");
  compare->setToolTip(tr("Keeps this picture and lays it over the left of what comes after it; drag the line"));
  overlays->addWidget(compare);
  auto* beside = new WordButton(tr("Beside"), WordButton::Look::small, this);
  beside->setObjectName("beside");
  beside->setToolTip(tr("The kept picture and this one side by side, each whole"));
  beside->hide();
  connect(compare, &WordButton::toggled, this, [this, beside](bool on) {
    lens_->setCompared(on);
    beside->setVisible(on);
  });
  connect(beside, &WordButton::toggled, lens_, &LensView::setBeside);
  overlays->addWidget(beside);
  auto* zoom = new WordButton(tr("1:1"), WordButton::Look::small, this);
  zoom->setObjectName("zoom");
  zoom->setAccessibleName(tr("One delivered pixel to one of the screen"));
  zoom->setToolTip(tr("One delivered pixel to one of the screen, about the place that is read (Z)"));
  connect(zoom, &WordButton::toggled, lens_, &LensView::setZoomed);
  connect(lens_, &LensView::zoomChanged, zoom, &WordButton::setChecked);
  overlays->addWidget(zoom);
  return overlays;
}

void StagePage::setLensAlone(bool alone) {
  lensAlone_ = alone;
  for (QWidget* w : around_) w->setVisible(!alone);
  seen_->setStretch(0, alone ? 0 : 44);
  columns_->setStretch(1, alone ? 0 : 27);
}

StagePage::Foot StagePage::footOf(const QString& bench) const {
  for (const Bench& one : benchList_)
    if (one.name == bench) return one.foot;
  return Foot::hand;
}

void StagePage::setBench(const QString& name) {
  const bool known =
      std::any_of(benchList_.begin(), benchList_.end(), [&](const Bench& b) { return b.name == name; });
  bench_ = known ? name : QString("light");
  for (const Bench& one : benchList_) one.button->setChecked(one.name == bench_);
  for (const Ask& ask : asks_) {
    ask.button->setVisible(ask.bench == bench_);
    if (ask.bench != bench_) ask.button->setChecked(false);  // what it shows over the lens is its bench's
  }
  lens_->setOverlay("Gear", bench_ == "place");
  floor_->setBench(bench_ == "place"     ? FloorView::Bench::place
                   : bench_ == "move"    ? FloorView::Bench::move
                   : bench_ == "effects" ? FloorView::Bench::effects
                                         : FloorView::Bench::light);
  setFoot(footOf(bench_));
}

void StagePage::setFoot(Foot foot) {
  for (const Ask& ask : asks_)
    if (ask.foot) ask.button->setChecked(ask.foot == foot);
  QWidget*& shown = feet_[foot];
  if (!shown) foot_->addWidget(shown = makeFoot(foot));
  foot_->setCurrentWidget(shown);
  lens_->setOverlay("Pins", foot == Foot::meter);
  floor_->showPins(foot == Foot::meter);
  showAngles();
  showSupports();
}

/// Of the wishes for no reflection, in the world of the picture that is shown.
void StagePage::showAngles() {
  std::vector<AngleFamily> families;
  const auto picture = lens_->picture();
  const Shot* shot = session_->shot();
  if (const auto* wish = qobject_cast<WishPanel*>(foot_->currentWidget());
      wish && shot && !shot->products.empty() && picture && picture->tracer && picture->world)
    for (const Vec3& own : wish->unmirrored()) {
      const Vec3 at = product_at(session_->project(), *shot, shot->products.front(), picture->set_time).world(own);
      if (auto family =
              angle_family(picture->tracer->geometry(), picture->world->camera.middle_pose(), at, free_radius))
        families.push_back(*std::move(family));
    }
  floor_->setAngles(std::move(families));
}

/// Of a shot that is put together of plates, on its bench.
void StagePage::showSupports() {
  const Shot* shot = session_->shot();
  const bool plates = shot && std::ranges::any_of(shot->effects, [](const Effect& e) {
                        return e.kind == "levitate" || e.kind == "morph" || e.kind == "stop-motion";
                      });
  lens_->setOverlay("Supports", plates && bench_ == "effects");
}

void StagePage::paintEvent(QPaintEvent*) {
  QPainter p(this);
  p.fillRect(rect(), theme().ground);
}

bool StagePage::settled() const { return lens_->settled() && effectsSeen_->settled(); }

}  // namespace cinnabar
