// The Brief: what the product is, what of it must be seen, in which mood and by which schools, where the film runs
// and with what means.
#pragma once
#include <QWidget>

#include "cinnabar/desktop/brief/material_sheet.h"
#include "cinnabar/desktop/controls/painted.h"
#include "cinnabar/desktop/edits/hand.h"
#include "cinnabar/desktop/pages/page.h"
#include "cinnabar/desktop/workers/newest.h"
#include "cinnabar/forecast/levels/features.h"

class QComboBox;
class QFormLayout;
class QGridLayout;
class QHBoxLayout;
class QLabel;
class QLineEdit;
class QPushButton;
class QVBoxLayout;

namespace cinnabar {

class NumberGrid;
class ProductDrawing;
class ProductPicture;
class WordButton;

/// The product in hand: its kind and measures, parts and their materials, label, mass, colours.
class BriefProduct : public QWidget {
  Q_OBJECT
 public:
  explicit BriefProduct(Session* session, QWidget* parent = nullptr);
  [[nodiscard]] std::size_t product() const { return index_; }
  [[nodiscard]] ProductDrawing* drawing() const { return drawing_; }
  /// The label's `key`, "picture" or "foil", from a file.
  void readLabel(const QString& path, const std::string& key = "picture");
  void readMesh(const QString& path);

 signals:
  void productChosen();

 protected:
  void showEvent(QShowEvent*) override { refresh(); }
  void paintEvent(QPaintEvent*) override;

 private:
  [[nodiscard]] QHBoxLayout* chooserRow();
  [[nodiscard]] QGridLayout* partsGrid();
  void addPart();
  [[nodiscard]] QHBoxLayout* labelRow();
  void connectChoices();
  void connectLabel();
  void refresh();
  void choose(std::size_t index);
  void add(const std::string& kind);
  void chooseMesh();
  void remove();
  void rebuild(const std::string& kind, const std::map<std::string, double>& measures, const QString& title);
  void colours();
  [[nodiscard]] const Json* json() const;
  [[nodiscard]] std::string path() const;
  Session* session_;
  std::size_t index_ = 0;
  QComboBox *products_, *kind_;
  QLineEdit* name_;
  ProductDrawing* drawing_;
  ProductPicture* picture_;
  NumberGrid* fields_;
  std::vector<HandField> specs_;
  QGridLayout* materialsGrid_ = nullptr;
  std::vector<std::pair<QLabel*, QComboBox*>> parts_;
  WordButton *label_, *labelPicture_, *labelFoil_, *materials_;
  Swatches* swatches_;
  QLabel *palette_, *advice_;
  std::shared_ptr<const Product> coloured_;
  Newest worker_, reader_;  // last: they use the others
};

/// What must be seen of the product in hand, and in which shot each is seen best.
class BriefSeen : public Painted {
  Q_OBJECT
 public:
  BriefSeen(Session* session, BriefProduct* product, QWidget* parent = nullptr);
  [[nodiscard]] std::vector<ToldPart> parts() const override;
  [[nodiscard]] const std::vector<FeatureView>& views() const { return views_; }
  [[nodiscard]] std::optional<std::size_t> chosen() const { return chosen_; }
  void choose(std::optional<std::size_t> feature);

 protected:
  void showEvent(QShowEvent*) override { refresh(); }
  void paintEvent(QPaintEvent*) override;
  void mousePressEvent(QMouseEvent*) override;
  void keyPressEvent(QKeyEvent*) override;

 private:
  void connectParts();
  void refresh();
  void ask();
  void add();
  void remove();
  void place(std::size_t feature, double height, double bearing_deg);
  [[nodiscard]] const Product* product() const;
  [[nodiscard]] std::string path() const;
  [[nodiscard]] QRectF row(std::size_t feature) const;
  Session* session_;
  BriefProduct* product_;
  std::optional<std::size_t> chosen_;
  std::vector<FeatureView> views_;
  QLineEdit* name_;
  WordButton *read_, *add_, *remove_;
  std::vector<NumberField*> fields_;
  Newest worker_;  // last: it uses the others
};

/// Where it runs, and the means there are.
class BriefRuns : public QWidget {
  Q_OBJECT
 public:
  explicit BriefRuns(Session* session, QWidget* parent = nullptr);

 protected:
  void showEvent(QShowEvent*) override { refresh(); }
  void paintEvent(QPaintEvent*) override;

 private:
  [[nodiscard]] NumberGrid* grid(std::vector<HandField>& specs, std::size_t usual);
  void refresh();
  void connectParts();
  void tell();
  [[nodiscard]] std::string path() const;
  Session* session_;
  std::size_t index_ = 0;
  QComboBox* list_;
  QLineEdit* name_;
  WordButton *add_, *remove_, *words_;
  NumberGrid *fields_, *means_;
  std::vector<HandField> specs_, meansSpecs_;
  QLabel* says_;
};

/// The mood and the house rules, each with its reason.
class BriefRules : public QWidget {
  Q_OBJECT
 public:
  explicit BriefRules(Session* session, QWidget* parent = nullptr);

 protected:
  void showEvent(QShowEvent*) override { refresh(); }
  void paintEvent(QPaintEvent*) override;

 private:
  void addRules(QVBoxLayout* all);
  void addRow(QVBoxLayout* all, const QString& label, QComboBox* box, QLabel* reason);
  void refresh();
  Session* session_;
  QComboBox* mood_;
  QLabel* moodSays_;
  std::vector<std::tuple<HouseRule, QComboBox*, QLabel*>> rules_;
};

class BriefPage : public WindowPage {
  Q_OBJECT
 public:
  explicit BriefPage(Session* session, QWidget* parent = nullptr);
  void takeFocus() override;
  [[nodiscard]] BriefProduct* product() const { return product_; }

 protected:
  void paintEvent(QPaintEvent*) override;

 private:
  BriefProduct* product_;
  BriefSeen* seen_;
};

}  // namespace cinnabar
