// Levels and levers on worker threads, and the strip's pictures and counts in the background.
#pragma once
#include <QHash>
#include <QImage>
#include <QObject>
#include <memory>

#include "cinnabar/desktop/workers/newest.h"
#include "cinnabar/desktop/workers/seeker.h"
#include "cinnabar/forecast/forecast.h"
#include "cinnabar/forecast/moves/ready_moves.h"
#include "cinnabar/forecast/touched.h"

namespace cinnabar {

struct ShotGlance {
  QImage picture;
  Tally counts;
  bool known = false;
};

class Foresight : public QObject {
  Q_OBJECT
 public:
  explicit Foresight(const MeasureQuality& closely = full_measure, QObject* parent = nullptr);

  /// Levels of one shot: soon and roughly, then closely. Answered by levels().
  void askLevels(const Project& project, std::size_t shot);
  /// What was told last of the shot that was asked about, for whoever comes later; empty until then.
  [[nodiscard]] const std::vector<Level>& told() const { return told_; }
  [[nodiscard]] bool toldClosely() const { return toldClosely_; }
  /// The lights' shares at a moment, soon and roughly, then closely. Answered by light().
  void askLight(const Project& project, std::size_t shot, double setTime);
  /// Levers of one level, each told by leverProved() as it is found, all of them by levers(). `known`: how all
  /// levels of the shot stand in this document, where they are sure.
  void askLevers(const Document& document, std::size_t shot, const std::string& level,
                 const std::vector<Level>& known = {});
  void stopLevers() { leverWorker_.stop(); }
  /// A ready move made as a new shot at a place in the list, on a set-up (empty: that of the shot before). Its
  /// number, by which moveMade() answers, or moveStopped() where it is called off or another was asked for
  /// meanwhile.
  int askMove(const Document& document, const std::string& move, std::size_t place, const std::string& setup);
  /// Calls off the one of that number, if it is still being made.
  void stopMove(int number);
  /// What a change to a set-up does to the other shots on it and its variations, once the shot in hand is
  /// measured. Its number, by which touched() answers.
  int askTouched(const Document& before, const Document& after, std::size_t own);
  void stopTouched() { touchWorker_.stop(); }
  /// Pictures and counts of all shots that changed since they were last looked at.
  void askGlances(const Document& document, const Project& project);
  /// While somebody waits for an answer, the strip's counts wait too; each hold is let go once.
  void holdBack(bool hold) { held_ += hold ? 1 : -1; }
  [[nodiscard]] const ShotGlance* glance(const std::string& shotId) const;
  /// A light's share of what the faces toward the camera get, by light index, the ambient last; of the moment that
  /// was last answered.
  [[nodiscard]] const std::vector<double>& shares() const { return shares_; }
  /// Illuminance of the highest of these faces.
  [[nodiscard]] double lux() const { return lux_; }
  [[nodiscard]] Forecaster forecaster() const { return full_; }
  /// Who looks for ways: one for all panels.
  [[nodiscard]] Seeker* seeker() { return &seeker_; }

 signals:
  void levels(const std::vector<Level>& levels, bool close);
  void light();
  void levers(const QString& level, const Forecaster::Levers& levers);
  void leverProved(const QString& level, const Lever& lever, int tried, int all);
  void glances();
  void moveMade(int number, const Document& before, std::shared_ptr<const Expected<MoveMade>> made);
  void moveStopped(int number);
  void touched(int number, const std::vector<Touched>& shots);

 private:
  /// What is looked at comes first: waits, on a worker, until it is measured and nobody waits for an answer.
  void giveWay(const std::atomic<bool>& cancelled) const;
  Forecaster full_, quick_;
  QHash<QString, ShotGlance> glances_;
  QHash<QString, std::size_t> glanceKeys_;
  std::vector<Level> told_;
  bool toldClosely_ = false;
  std::vector<double> shares_;
  double lux_ = 0;
  std::atomic<int> measuring_{0};  ///< the ticket of the levels that are being measured; 0: none
  std::atomic<int> held_{0};       ///< how many wait for an answer from elsewhere
  int levelsAsked_ = 0, lightAsked_ = 0, movesAsked_ = 0, moveMaking_ = 0, touchesAsked_ = 0;
  Seeker seeker_;
  Newest levelWorker_, lightWorker_, leverWorker_, glanceWorker_, moveWorker_, touchWorker_;
};

}  // namespace cinnabar
