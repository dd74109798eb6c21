#include "cinnabar/desktop/pages/stage_page.h"

#include <QHBoxLayout>
#include <QVBoxLayout>

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
  place_ = new WordButton(tr("Place"), WordButton::Look::bench, this);
  light_ = new WordButton(tr("Light"), WordButton::Look::bench, this);
  place_->setObjectName("bench-place");
  light_->setObjectName("bench-light");
  place_->setToolTip(tr("Things move with what they are aimed at"));
  light_->setToolTip(tr("Things go round what they are aimed at"));
  auto* add = new WordButton(tr("+ shot"), WordButton::Look::plain, this);
  add->setObjectName("addShot");
  add->setAccessibleName(tr("Add a shot"));
  floor_ = new FloorView(session, this);
  auto* hand = new InHand(session, foresight, this);
  lens_ = new LensView(session, maker, this);
  lights_ = new LightsPanel(session, foresight, this);
  levels_ = new LevelsPanel(session, foresight, this);
  auto* ladder = new LadderView(session, foresight, this);

  auto* benches = new QHBoxLayout;
  benches->setSpacing(6);
  benches->addWidget(place_);
  benches->addWidget(light_);
  benches->addSpacing(14);
  benches->addWidget(new Summary(session, this), 1);
  benches->addWidget(add);

  auto* overlays = new QHBoxLayout;
  overlays->setSpacing(6);
  for (const char* name : {"Stop lines", "Focus discs", "Smear strokes", "Copy space", "Frames", "Clip"}) {
    auto* chip = new WordButton(tr(name), WordButton::Look::chip, this);
    chip->setObjectName(QString("overlay-%1").arg(QString(name).toLower().replace(' ', '-')));
    chip->setChecked(lens_->overlay(name));
    connect(chip, &WordButton::toggled, this, [this, name](bool on) { lens_->setOverlay(name, on); });
    overlays->addWidget(chip);
  }
  overlays->addStretch(1);
  auto* zoom = new WordButton(tr("1:1"), WordButton::Look::chip, this);
  zoom->setObjectName("zoom");
  zoom->setAccessibleName(tr("One delivered pixel to one of the screen"));
  zoom->setToolTip(tr("One delivered pixel to one of the screen, about the place that is read (Z)"));
  connect(zoom, &WordButton::toggled, lens_, &LensView::setZoomed);
  connect(lens_, &LensView::zoomChanged, zoom, &WordButton::setChecked);
  overlays->addWidget(zoom);

  hand->setFixedHeight(136);
  lights_->setMinimumHeight(124);
  lights_->setMaximumHeight(150);
  auto* leftColumn = new QVBoxLayout;
  leftColumn->setSpacing(8);
  leftColumn->addWidget(floor_, 1);
  leftColumn->addWidget(hand);
  auto* middle = new QVBoxLayout;
  middle->setSpacing(6);
  middle->addWidget(lens_, 1);
  middle->addLayout(overlays);
  middle->addWidget(lights_);
  auto* columns = columns_ = new QHBoxLayout;
  columns->setSpacing(10);
  columns->addLayout(leftColumn, 44);
  columns->addLayout(middle, 48);
  columns->addWidget(levels_, 27);
  auto* all = new QVBoxLayout(this);
  all->setContentsMargins(20, 6, 20, 2);
  all->setSpacing(8);
  all->addLayout(benches);
  all->addLayout(columns, 1);
  all->addWidget(ladder);

  connect(place_, &WordButton::clicked, this, [this] { setBench("place"); });
  connect(light_, &WordButton::clicked, this, [this] { setBench("light"); });
  connect(add, &WordButton::clicked, this,
          [this, foresight] { (new AddShotSheet(session_, foresight, this))->open(); });
  around_ = {floor_, hand, lights_, levels_, ladder};
  connect(lens_, &LensView::wholeWindowAsked, this, [this] { setLensAlone(!lensAlone_); });
  connect(lights_, &LightsPanel::soloed, lens_, &LensView::setSolo);
  setBench("light");
}

void StagePage::setLensAlone(bool alone) {
  lensAlone_ = alone;
  for (QWidget* w : around_) w->setVisible(!alone);
  const int shares[] = {44, 48, 27};
  for (int k = 0; k < 3; ++k) columns_->setStretch(k, alone && k != 1 ? 0 : shares[k]);
}

QString StagePage::bench() const { return place_->isChecked() ? "place" : "light"; }

void StagePage::setBench(const QString& name) {
  place_->setChecked(name == "place");
  light_->setChecked(name != "place");
  floor_->setBench(name == "place" ? FloorView::Bench::place : FloorView::Bench::light);
}

void StagePage::paintEvent(QPaintEvent*) {
  QPainter p(this);
  p.fillRect(rect(), theme().ground);
}

bool StagePage::settled() const { return lens_->settled(); }

}  // namespace cinnabar
