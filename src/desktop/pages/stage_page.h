// The Stage: floor and In hand on the left, lens and lights in the middle, levels on the right, the ladder below.
#pragma once
#include <QWidget>
#include <map>
#include <optional>
#include <vector>

#include "cinnabar/desktop/edits/session.h"
#include "cinnabar/desktop/pages/page.h"
#include "cinnabar/desktop/workers/foresight.h"
#include "cinnabar/desktop/workers/picture_maker.h"

class QHBoxLayout;
class QStackedWidget;

namespace cinnabar {

class FloorView;
class LensView;
class LevelsPanel;
class EffectsSeen;
class WordButton;

class StagePage : public WindowPage {
  Q_OBJECT
 public:
  StagePage(Session* session, Foresight* foresight, PictureMaker* maker, QWidget* parent = nullptr);
  void setBench(const QString& name);  ///< "place", "light", "move", "expose" or "effects"
  [[nodiscard]] QString bench() const { return bench_; }
  /// The lens over the whole page, or among the rest again.
  void setLensAlone(bool alone);
  [[nodiscard]] bool lensAlone() const { return lensAlone_; }
  [[nodiscard]] LensView* lens() const { return lens_; }
  [[nodiscard]] bool settled() const override;
  [[nodiscard]] LevelsPanel* levels() const { return levels_; }

 protected:
  void paintEvent(QPaintEvent*) override;

 private:
  /// What stands under floor and lens.
  enum class Foot { hand, wish, ways, mirrors, meter, expose, move, effects, motor, by_hand, modes };
  struct Bench {
    WordButton* button;
    QString name;
    Foot foot;
  };
  /// What a bench can be asked for besides: something in the foot's place, else something over the lens.
  struct Ask {
    WordButton* button;
    QString bench;
    std::optional<Foot> foot;
  };
  void setFoot(Foot foot);
  void showSupports();
  void showAngles();
  [[nodiscard]] Foot footOf(const QString& bench) const;
  void buildBenches();
  QWidget* makeFoot(Foot foot);
  QHBoxLayout* overlays();

  Session* session_;
  Foresight* foresight_;
  FloorView* floor_ = nullptr;
  LensView* lens_ = nullptr;
  LevelsPanel* levels_ = nullptr;
  EffectsSeen* effectsSeen_ = nullptr;
  std::vector<Bench> benchList_;
  std::vector<Ask> asks_;
  QString bench_ = "light";
  std::vector<QWidget*> around_;  // what gives way to the lens
  QHBoxLayout *benches_ = nullptr, *columns_ = nullptr, *seen_ = nullptr;
  QStackedWidget* foot_ = nullptr;
  std::map<Foot, QWidget*> feet_;  ///< those asked for so far
  bool lensAlone_ = false;
};

}  // namespace cinnabar
