// The chosen shot's words on the Board: name, size, part, set-up, length, features it shows, notes, sound; and the
// levels of the whole spot under them.
#pragma once
#include <QElapsedTimer>
#include <QWidget>

#include "cinnabar/desktop/edits/session.h"
#include "cinnabar/desktop/workers/foresight.h"

class QComboBox;
class QFormLayout;
class QHBoxLayout;
class QLineEdit;
class QPlainTextEdit;
class QVBoxLayout;

namespace cinnabar {

class Vial;

class ShotPaper : public QWidget {
  Q_OBJECT
 public:
  ShotPaper(Session* session, Foresight* foresight, QWidget* parent = nullptr);
  /// A beat tapped at a time in seconds; four or more in a row set the tempo by their mean.
  void tapAt(double seconds);

 protected:
  void paintEvent(QPaintEvent*) override;

 private:
  [[nodiscard]] QLineEdit* line(const char* id, const QString& label);
  [[nodiscard]] QComboBox* choice(const char* id, const QString& label);
  [[nodiscard]] QFormLayout* shotForm();
  [[nodiscard]] QHBoxLayout* spotRow();
  void connectWords();
  void connectLength();
  void refresh();
  void keep(const QString& title, const char* member, const std::optional<Json>& value);
  void showSpot(const std::vector<Level>& levels);
  void showSeen(const std::vector<Level>& levels);
  Session* session_;
  QLineEdit *name_, *length_, *sound_, *plates_, *allowed_, *tempo_;
  QElapsedTimer taps_;
  std::vector<double> tapped_;
  QComboBox *size_, *role_, *setup_;
  QPlainTextEdit* notes_;
  QVBoxLayout* features_;
  QVBoxLayout* spot_;
  std::vector<Vial*> vials_;
  Vial* seen_;  ///< how well the shot shows what it promises
  QStringList shownFeatures_;
};

}  // namespace cinnabar
