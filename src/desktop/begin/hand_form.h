// What one holds in the hand: form, measures, material, what must be seen, kit, where it runs, length, tempo,
// mood.
#pragma once
#include <QWidget>

#include "cinnabar/project/making/new_spot.h"

class QButtonGroup;
class QComboBox;
class QLabel;
class QLineEdit;
class QVBoxLayout;

namespace cinnabar {

class WordButton;

class HandForm : public QWidget {
  Q_OBJECT
 public:
  explicit HandForm(QWidget* parent);
  /// What stands in the fields; an error names the field and the mend.
  [[nodiscard]] Expected<SpotInHand> hand() const;
  /// A mesh taken in place of the form; empty: none.
  [[nodiscard]] QString mesh() const { return mesh_; }
  void setMesh(const QString& file);
  void takeFocus();

 signals:
  void changed();

 protected:
  void paintEvent(QPaintEvent*) override;

 private:
  QWidget* forms();
  QLineEdit* field(const QString& label, const char* id, const QString& text);
  WordButton* chip(QButtonGroup* group, const QString& text, const QString& id);
  QWidget* measures();
  QWidget* mustBeSeen();
  QWidget* kit();
  QWidget* where();
  QWidget* mood();
  void addSeen(const QString& words, const QString& height);
  void formChosen();
  QButtonGroup *forms_, *kits_, *moods_, *shapes_;
  QLineEdit *height_, *width_, *mass_, *length_, *tempo_;
  QComboBox *madeOf_, *rate_;
  QVBoxLayout* seen_ = nullptr;
  std::vector<std::pair<QLineEdit*, QLineEdit*>> seenRows_;
  WordButton *meshButton_, *moreSeen_ = nullptr;
  QString mesh_;
};

}  // namespace cinnabar
