// Begin: from what one holds in the hand to a draft of the spot, or on with what was made lately.
#pragma once
#include <QTimer>
#include <QWidget>
#include <map>

#include "cinnabar/desktop/begin/draft_maker.h"

class QGridLayout;
class QHBoxLayout;
class QLabel;
class QPushButton;

namespace cinnabar {

class DraftCard;
class HandForm;
class Lately;
class WordButton;

class BeginPage : public QWidget {
  Q_OBJECT
 public:
  explicit BeginPage(QWidget* parent);
  /// As it is come back to: what was made lately, looked at anew.
  void refresh();
  void takeFocus();
  /// The name of the project that is open behind it; empty: none is.
  void setBehind(const QString& project);
  [[nodiscard]] HandForm* form() const { return form_; }
  [[nodiscard]] std::shared_ptr<const Draft> draft() const { return draft_; }
  [[nodiscard]] bool drafting() const { return drafting_; }

 signals:
  /// A project to be made of this document, its name asked for.
  void taken(const Document& document, const QString& name);
  void openWanted(const QString& file);
  void exampleWanted();
  void backWanted();
  void message(const QString& text);

 protected:
  void paintEvent(QPaintEvent*) override;

 private:
  [[nodiscard]] QHBoxLayout* draftHead();
  QWidget* right();
  void draftSoon();
  void begin();
  void stop();
  void show(const std::shared_ptr<const Draft>& draft, std::size_t planned);
  void tellNeeds();
  void another(std::size_t shot);
  void leaveOut(std::size_t shot);
  void takeEmpty();
  void setDrafting(bool drafting, const QString& note = {});
  [[nodiscard]] DraftCard* card(std::size_t index);

  HandForm* form_;
  Lately* lately_;
  DraftMaker maker_;
  QWidget* panel_ = nullptr;
  QGridLayout* grid_ = nullptr;
  QLabel *length_, *needs_, *note_, *empty_;
  QPushButton* take_;
  WordButton *again_, *none_, *cancel_, *back_;
  std::vector<DraftCard*> cards_;
  std::shared_ptr<const Draft> draft_;
  std::map<QString, std::set<std::string>> refused_;  ///< moves turned down, by shot
  QTimer soon_;
  QString wanted_;
  std::size_t planned_ = 0;
  unsigned seed_ = 1;
  bool drafting_ = false, begun_ = false;
};

}  // namespace cinnabar
