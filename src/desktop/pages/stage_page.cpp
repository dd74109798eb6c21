#include "cinnabar/desktop/pages/stage_page.h"

#include <QHBoxLayout>
#include <QStackedWidget>
#include <QVBoxLayout>
#include <algorithm>

#include "cinnabar/base/text.h"
#include "cinnabar/desktop/board/add_shot_sheet.h"
#include "cinnabar/desktop/controls/controls.h"
#include "cinnabar/desktop/edits/things.h"
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
    : WindowPage(parent), session_(session) {
  setObjectName("stage");
  buildBenches(foresight);
  effectsSeen_ = new EffectsSeen(session, this);
  floor_ = new FloorView(session, this);
  floor_->setEffects(effectsSeen_);
  lens_ = new LensView(session, maker, this);
  levels_ = new LevelsPanel(session, foresight, this);
  auto* ladder = new LadderView(session, foresight, this);
  ladder->setEffects(effectsSeen_);
  buildFoot(foresight);

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
  connect(lens_, &LensView::wholeWindowAsked, this, [this] { setLensAlone(!lensAlone_); });
  connect(lights_, &LightsPanel::soloed, lens_, &LensView::setSolo);
  connect(lens_, &LensView::placeRead, this, [this] {
    if (foot_->currentWidget() != wish_) return;
    if (const auto met = lens_->placeMet()) wish_->takePlace(*met);
  });
  for (WayCards* cards : {wish_->cards(), ways_->cards(), expose_->cards(), move_->cards()})
    connect(cards, &WayCards::ghosts, floor_, &FloorView::setGhosts);
  setBench("light");
}

/// The benches, what the bench Light can be asked for, and the shot's settings in a line.
void StagePage::buildBenches(Foresight* foresight) {
  const auto button = [this](const QString& text, WordButton::Look look, const char* id, const QString& tip) {
    auto* b = new WordButton(text, look, this);
    b->setObjectName(id);
    b->setToolTip(tip);
    return b;
  };
  using Look = WordButton::Look;
  place_ = button(tr("Place"), Look::bench, "bench-place", tr("Things move with what they are aimed at"));
  light_ = button(tr("Light"), Look::bench, "bench-light", tr("Things go round what they are aimed at"));
  moves_ = button(tr("Move"), Look::bench, "bench-move",
                  tr("What moves, and moves worked out for what they are to do"));
  exposes_ = button(tr("Expose"), Look::bench, "bench-expose", tr("What gives light and what takes it, in stops"));
  effect_ = button(tr("Effects"), Look::bench, "bench-effects",
                   tr("What is poured, thrown, let fall, sprayed or steams, and when"));
  asksWish_ = button(tr("A wish"), Look::chip, "askWish",
                     tr("Say what is to be seen, and be told where things have to stand"));
  asksWays_ = button(tr("Ways to light it"), Look::chip, "askWays",
                     tr("Arrangements to begin from, and lights to do without"));
  asksMirrors_ = button(tr("What it mirrors"), Look::chip, "askMirrors",
                        tr("The room as the product sees it, unrolled; put a light or a card where it looks"));
  asksHand_ = button(tr("By hand"), Look::chip, "askHand",
                     tr("Where to put tape, how to count, and what a missed mark is in the picture"));
  asksMotor_ = button(tr("By motor"), Look::chip, "askMotor",
                      tr("A motion controller goes through it, and how far off it was is told"));
  asksModes_ = button(tr("Modes"), Look::chip, "askModes",
                      tr("What each mode of the cameras lacks for each shot, and what it costs in light"));
  bands_ = button(
      tr("Bands"), Look::chip, "showBands",
      tr("The picture as the lamps' pulses meet the sensor's readout, row by row, where the kit knows them"));
  stages_ = button(tr("Start to end"), Look::chip, "showStages",
                   tr("The products' outlines as the shot begins, half-way and as it ends, on the lens"));
  auto* add = button(tr("+ shot"), Look::plain, "addShot", {});
  add->setAccessibleName(tr("Add a shot"));
  benches_ = new QHBoxLayout;
  benches_->setSpacing(6);
  for (WordButton* b : {place_, light_, moves_, exposes_, effect_}) benches_->addWidget(b);
  benches_->addSpacing(10);
  for (WordButton* b : {asksWish_, asksWays_, asksMirrors_, asksHand_, asksMotor_, stages_, asksModes_, bands_})
    benches_->addWidget(b);
  benches_->addSpacing(10);
  benches_->addWidget(new Summary(session_, this), 1);
  benches_->addWidget(add);
  connect(place_, &WordButton::clicked, this, [this] { setBench("place"); });
  connect(light_, &WordButton::clicked, this, [this] { setBench("light"); });
  connect(moves_, &WordButton::clicked, this, [this] { setBench("move"); });
  connect(exposes_, &WordButton::clicked, this, [this] { setBench("expose"); });
  connect(effect_, &WordButton::clicked, this, [this] { setBench("effects"); });
  connect(asksWish_, &WordButton::clicked, this, [this](bool on) { setFoot(on ? Foot::wish : Foot::hand); });
  connect(asksWays_, &WordButton::clicked, this, [this](bool on) { setFoot(on ? Foot::ways : Foot::hand); });
  connect(asksMirrors_, &WordButton::clicked, this, [this](bool on) { setFoot(on ? Foot::mirrors : Foot::hand); });
  connect(asksHand_, &WordButton::clicked, this, [this](bool on) { setFoot(on ? Foot::by_hand : Foot::move); });
  connect(bands_, &WordButton::toggled, this, [this](bool on) { lens_->setOverlay("Bands", on); });
  connect(asksModes_, &WordButton::clicked, this, [this](bool on) { setFoot(on ? Foot::modes : Foot::expose); });
  connect(asksMotor_, &WordButton::clicked, this, [this](bool on) { setFoot(on ? Foot::motor : Foot::move); });
  connect(stages_, &WordButton::toggled, this, [this](bool on) { lens_->setOverlay("Start to end", on); });
  connect(add, &WordButton::clicked, this,
          [this, foresight] { (new AddShotSheet(session_, foresight, this))->open(); });
}

/// Under floor and lens: In hand and the lights, or what a bench has in their place.
void StagePage::buildFoot(Foresight* foresight) {
  lights_ = new LightsPanel(session_, foresight, this);
  auto* both = new QWidget(this);
  auto* row = new QHBoxLayout(both);
  row->setContentsMargins(0, 0, 0, 0);
  row->setSpacing(10);
  row->addWidget(new InHand(session_, foresight, both), 44);
  row->addWidget(lights_, 48);
  wish_ = new WishPanel(session_, foresight, this);
  ways_ = new LightWaysPanel(session_, foresight, this);
  mirrors_ = new MirrorPanel(session_, this);
  connect(lens_, &LensView::pictureShown, mirrors_, [this] { mirrors_->look(lens_->picture()); });
  expose_ = new ExposePanel(session_, foresight, this);
  move_ = new SolvePanel("move", session_, foresight, this);
  move_->setHead(tr("A move"), tr("what it is to do; its tracks are worked out, and tried on the whole shot"));
  std::vector<SolverKind> moves = solver_kinds();
  moves.erase(std::remove_if(moves.begin(), moves.end(), [](const SolverKind& one) { return one.effect; }),
              moves.end());
  move_->offerKinds(std::move(moves));
  auto* effects = new EffectsPanel(session_, foresight, effectsSeen_, this);
  foot_ = new QStackedWidget(this);
  for (QWidget* page :
       {both, static_cast<QWidget*>(wish_), static_cast<QWidget*>(ways_), static_cast<QWidget*>(mirrors_),
        static_cast<QWidget*>(expose_), static_cast<QWidget*>(move_), static_cast<QWidget*>(effects),
        static_cast<QWidget*>(new MotorPanel(session_, this)),
        static_cast<QWidget*>(new HandPanel(session_, this)),
        static_cast<QWidget*>(new ModesPanel(session_, this))})
    foot_->addWidget(page);
  foot_->setFixedHeight(154);
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
  connect(compare, &WordButton::toggled, lens_, &LensView::setCompared);
  overlays->addWidget(compare);
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

QString StagePage::bench() const {
  for (const auto& [button, name] : benchButtons())
    if (button->isChecked()) return name;
  return "light";
}

std::vector<std::pair<WordButton*, QString>> StagePage::benchButtons() const {
  return {{place_, "place"}, {light_, "light"}, {moves_, "move"}, {exposes_, "expose"}, {effect_, "effects"}};
}

void StagePage::setBench(const QString& name) {
  bool known = false;
  for (const auto& [button, own] : benchButtons()) {
    button->setChecked(own == name);
    known = known || own == name;
  }
  if (!known) light_->setChecked(true);
  for (WordButton* asks : {asksWish_, asksWays_, asksMirrors_}) asks->setVisible(light_->isChecked());
  for (WordButton* own : {asksHand_, asksMotor_, stages_}) own->setVisible(moves_->isChecked());
  for (WordButton* own : {asksModes_, bands_}) own->setVisible(exposes_->isChecked());
  if (!exposes_->isChecked()) bands_->setChecked(false);
  if (!moves_->isChecked()) stages_->setChecked(false);
  floor_->setBench(name == "place"     ? FloorView::Bench::place
                   : name == "move"    ? FloorView::Bench::move
                   : name == "effects" ? FloorView::Bench::effects
                                       : FloorView::Bench::light);
  setFoot(name == "expose"    ? Foot::expose
          : name == "move"    ? Foot::move
          : name == "effects" ? Foot::effects
                              : Foot::hand);
}

void StagePage::setFoot(Foot foot) {
  asksWish_->setChecked(foot == Foot::wish);
  asksWays_->setChecked(foot == Foot::ways);
  asksMirrors_->setChecked(foot == Foot::mirrors);
  asksMotor_->setChecked(foot == Foot::motor);
  asksHand_->setChecked(foot == Foot::by_hand);
  asksModes_->setChecked(foot == Foot::modes);
  foot_->setCurrentIndex(static_cast<int>(foot));
}

void StagePage::paintEvent(QPaintEvent*) {
  QPainter p(this);
  p.fillRect(rect(), theme().ground);
}

bool StagePage::settled() const { return lens_->settled() && effectsSeen_->settled(); }

}  // namespace cinnabar
