// The Stage: floor and In hand on the left, lens and lights in the middle, levels on the right, the ladder below.
#pragma once
#include <QWidget>

#include "cinnabar/desktop/edits/session.h"
#include "cinnabar/desktop/pages/page.h"
#include "cinnabar/desktop/workers/foresight.h"
#include "cinnabar/desktop/workers/picture_maker.h"

class QHBoxLayout;

namespace cinnabar {

class FloorView;
class LensView;
class LevelsPanel;
class LightsPanel;
class WordButton;

class StagePage : public WindowPage {
  Q_OBJECT
 public:
  StagePage(Session* session, Foresight* foresight, PictureMaker* maker, QWidget* parent = nullptr);
  void setBench(const QString& name);  ///< "place" or "light"
  [[nodiscard]] QString bench() const;
  /// The lens over the whole page, or among the rest again.
  void setLensAlone(bool alone);
  [[nodiscard]] bool lensAlone() const { return lensAlone_; }
  [[nodiscard]] LensView* lens() const { return lens_; }
  [[nodiscard]] bool settled() const override;
  [[nodiscard]] LevelsPanel* levels() const { return levels_; }

 protected:
  void paintEvent(QPaintEvent*) override;

 private:
  Session* session_;
  FloorView* floor_;
  LensView* lens_;
  LevelsPanel* levels_;
  LightsPanel* lights_;
  WordButton *place_, *light_;
  std::vector<QWidget*> around_;  // what gives way to the lens
  QHBoxLayout* columns_ = nullptr;
  bool lensAlone_ = false;
};

}  // namespace cinnabar
