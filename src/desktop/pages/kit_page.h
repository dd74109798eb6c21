// The Kit: what is owned, thing by thing with its numbers; what the shots are short of; and what something not
// owned would buy.
#pragma once
#include <QWidget>
#include <memory>

#include "cinnabar/desktop/edits/kit_fields.h"
#include "cinnabar/desktop/pages/page.h"
#include "cinnabar/desktop/workers/newest.h"
#include "cinnabar/forecast/purchases/acquisitions.h"

class QComboBox;
class QHBoxLayout;
class QLabel;
class QLineEdit;
class QListWidget;
class QPushButton;

namespace cinnabar {

class BeamPlot;
class NumberGrid;
class WordButton;

/// The thing in hand: name, whether it is owned, its numbers, a camera's modes, a light's beam.
class KitThing : public QWidget {
  Q_OBJECT
 public:
  explicit KitThing(Session* session, QWidget* parent = nullptr);
  void show(const KitPlace& place);
  [[nodiscard]] const KitPlace& place() const { return place_; }

 signals:
  void measuredWanted();  ///< a measured light (IES) is to be read for it

 protected:
  void showEvent(QShowEvent*) override { refresh(); }
  void paintEvent(QPaintEvent*) override;

 private:
  [[nodiscard]] QHBoxLayout* wordsRow();
  void buildNumbers();
  void connectWords();
  void connectModes();
  void refresh();
  void setFlag(const std::string& pointer, const QString& what, bool on);
  void keepText(const std::string& key, const QString& text, const QString& what);
  void keepKind();
  void keepNoise();
  [[nodiscard]] static QList<std::pair<QString, QString>> kindsOf(const std::string& list);
  [[nodiscard]] QString kindIn(const Json& item) const;
  [[nodiscard]] static QString noiseText(const Json& item);
  [[nodiscard]] std::string path() const;
  Session* session_;
  KitPlace place_;
  std::size_t mode_ = 0;
  QLineEdit *name_, *unit_, *noise_;
  QComboBox *kind_, *modes_;
  WordButton *owned_, *hired_, *hot_, *autofocus_, *addMode_, *removeMode_, *measured_, *unmeasured_;
  NumberGrid *numbers_, *modeNumbers_;
  std::vector<HandField> specs_;
  std::size_t ownCount_ = 0;
  QWidget* modeBox_;
  BeamPlot* beam_;
  QLabel *none_, *noiseName_;
};

class KitPage : public WindowPage {
  Q_OBJECT
 public:
  explicit KitPage(Session* session, QWidget* parent = nullptr);
  void takeFocus() override;
  /// Reads an IES LM-63 file for the light in hand, on a worker.
  void readMeasured(const QString& path);

 protected:
  void paintEvent(QPaintEvent*) override;
  bool eventFilter(QObject* object, QEvent* event) override;
  void showEvent(QShowEvent*) override { refresh(); }

 private:
  [[nodiscard]] QWidget* owned();
  [[nodiscard]] QWidget* missing();
  void refresh();
  void fill();
  void chooseRow();
  void add(const std::string& list);
  void addStarter(const std::string& id);
  void removeChosen();
  void askMeasured();
  void workOut();
  void showBought(const std::vector<Bought>& bought);
  void putOnList();
  void checks();
  Session* session_;
  QListWidget *list_, *bought_, *short_;
  KitThing* thing_;
  QPushButton* workOut_;
  WordButton *cancel_, *put_;
  QLabel *progress_, *packed_;
  std::vector<std::optional<KitPlace>> rows_;
  std::vector<Bought> results_;
  JsonPtr known_;
  std::vector<std::pair<std::string, std::vector<JsonPtr>>> shown_;
  int ticket_ = 0;
  bool filling_ = false;
  Newest worker_, reader_;  // last: they use the others
};

}  // namespace cinnabar
