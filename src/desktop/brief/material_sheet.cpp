#include "cinnabar/desktop/brief/material_sheet.h"

#include <fmt/format.h>

#include <QComboBox>
#include <QHBoxLayout>
#include <QIcon>
#include <QLabel>
#include <QListWidget>
#include <QPointer>
#include <QPushButton>
#include <QVBoxLayout>

#include "cinnabar/desktop/brief/product_drawing.h"
#include "cinnabar/desktop/controls/controls.h"
#include "cinnabar/desktop/controls/sheets.h"
#include "cinnabar/desktop/theme/words.h"
#include "cinnabar/desktop/workers/later.h"
#include "cinnabar/desktop/workers/picture_maker.h"
#include "cinnabar/project/model/entities.h"

namespace cinnabar {

namespace {

/// Alike whether it is chosen or not.
QIcon iconOf(const QPixmap& pixmap) {
  QIcon icon(pixmap);
  icon.addPixmap(pixmap, QIcon::Selected);
  return icon;
}

/// A bobbin of a material, 5 cm high: a foot, a waist and a round head show edges, hollows and highlights at once.
Product bobbin(const Json& material) {
  Json profile = Json::array({Json::array({0.0, 0.0}), Json::array({0.019, 0.0}), Json::array({0.02, 0.002}),
                              Json::array({0.019, 0.006})});
  constexpr int steps = 16;
  for (int i = 1; i <= steps; ++i) {  // the waist, then the head
    const double a = pi * i / steps;
    profile.push_back({0.0165 + 0.0025 * std::cos(2 * a), 0.006 + 0.028 * i / steps});
  }
  for (int i = 1; i < steps; ++i) {
    const double a = 0.5 * pi * i / steps;
    profile.push_back({0.019 * std::cos(a), 0.034 + 0.011 * std::sin(a)});
  }
  profile.push_back({0.0, 0.045});
  const Json part{{"id", "bobbin"}, {"profile", profile}, {"material", material}};
  Document doc;
  doc.lists["products"].push_back(std::make_shared<const Json>(
      Json{{"id", "bobbin"}, {"name", "Bobbin"}, {"mass", 0.1}, {"parts", Json::array({part})}}));
  ProjectReader reader;
  return *reader.read(doc).products[0];
}

QImage swatch(const Json& material, const std::atomic<bool>& cancelled) {
  auto [studio, shot] = productStudio({}, bobbin(material), 0);
  shot.camera->focal *= 1.3;  // the bobbin fills the swatch
  constexpr int width = 200;
  const QImage whole = thumbnail(studio, shot, width, cancelled, {.passes = 12, .middle = 0.52});
  if (whole.isNull()) return {};
  const int tall = whole.height(), wide = tall * Swatches::wide / Swatches::tall;
  return whole.copy((whole.width() - wide) / 2, 0, wide, tall)
      .scaled(Swatches::wide, Swatches::tall, Qt::IgnoreAspectRatio, Qt::SmoothTransformation);
}

}  // namespace

QImage Swatches::of(const std::string& id) const {
  const auto found = images_.find(id);
  return found == images_.end() ? QImage() : found->second;
}

void Swatches::make() {
  std::vector<ReadyMaterial> missing;
  for (const ReadyMaterial& m : ready_materials())
    if (!images_.contains(m.id)) missing.push_back(m);
  if (missing.empty()) return;
  worker_.ask([self = QPointer(this), missing](const std::atomic<bool>& cancelled) {
    for (const ReadyMaterial& m : missing) {
      const QImage image = swatch(m.material, cancelled);
      if (cancelled || image.isNull()) return;
      later(self, [self, id = m.id, image] {
        self->images_[id] = image;
        emit self->made(q(id));
      });
    }
  });
}

MaterialSheet::MaterialSheet(Session* session, Swatches* swatches, std::size_t index, int part, QWidget* host)
    : QDialog(host), session_(session), swatches_(swatches), index_(index) {
  beginSheet(this, "materialSheet", tr("What it is made of"), {700, 560});
  part_ = new QComboBox(this);
  part_->setObjectName("materialPart");
  part_->setAccessibleName(tr("Part"));
  if (const Json* p = product()) {
    for (const Json& one : (*p)["parts"]) part_->addItem(q(one.value("id", "")));
    if (p->contains("label")) part_->addItem(tr("the label"));
  }
  part_->setCurrentIndex(std::clamp(part, 0, std::max(0, part_->count() - 1)));
  list_ = new QListWidget(this);
  list_->setObjectName("materialList");
  list_->setAccessibleName(tr("Materials"));
  list_->setViewMode(QListView::IconMode);
  list_->setIconSize({Swatches::wide, Swatches::tall});
  list_->setGridSize({Swatches::wide + 26, Swatches::tall + 44});
  list_->setResizeMode(QListView::Adjust);
  list_->setMovement(QListView::Static);
  list_->setWordWrap(true);
  list_->setSpacing(4);
  cover_ = new QComboBox(this);
  cover_->setObjectName("materialCover");
  cover_->setAccessibleName(tr("What lies on it"));
  cover_->addItem(tr("nothing on it"), "");
  for (const ReadyCover& c : ready_covers()) cover_->addItem(tr("with %1").arg(q(c.name)), q(c.kind));
  much_ = new QComboBox(this);
  much_->setObjectName("materialMuch");
  much_->setAccessibleName(tr("How much of it is covered"));
  for (const double some : {0.05, 0.15, 0.3, 0.5, 0.7}) much_->addItem(tr("on %1 % of it").arg(100 * some), some);
  much_->setCurrentIndex(2);
  words_ = new PlainLabel(this);
  words_->setObjectName("materialWords");
  words_->setWordWrap(true);
  auto* takeButton = new QPushButton(tr("Make it of this"), this);
  takeButton->setObjectName("materialTake");
  takeButton->setDefault(true);
  auto* leave = new QPushButton(tr("Close"), this);
  leave->setObjectName("materialClose");
  leave->setAutoDefault(false);
  auto* top = new QHBoxLayout;
  top->addWidget(part_, 1);
  top->addWidget(cover_, 1);
  top->addWidget(much_, 1);
  auto* foot = new QHBoxLayout;
  foot->addWidget(words_, 1);
  foot->addWidget(takeButton);
  foot->addWidget(leave);
  auto* all = new QVBoxLayout(this);
  all->addLayout(top);
  all->addWidget(list_, 1);
  all->addLayout(foot);

  connectParts(takeButton, leave);
  refresh();
  swatches_->make();
}

/// What each part does, and what it follows.
void MaterialSheet::connectParts(QPushButton* takeButton, QPushButton* leave) {
  connect(part_, &QComboBox::activated, this, &MaterialSheet::refresh);
  connect(cover_, &QComboBox::activated, this, [this] { much_->setEnabled(cover_->currentIndex() > 0); });
  connect(list_, &QListWidget::itemActivated, this, &MaterialSheet::take);
  connect(takeButton, &QPushButton::clicked, this, &MaterialSheet::take);
  connect(leave, &QPushButton::clicked, this, &QDialog::reject);
  connect(swatches_, &Swatches::made, this, [this](const QString& id) {
    for (int i = 0; i < list_->count(); ++i)
      if (QListWidgetItem* item = list_->item(i); item->data(Qt::UserRole).toString() == id)
        item->setIcon(iconOf(QPixmap::fromImage(swatches_->of(id.toStdString()))));
  });
  connect(session_, &Session::changed, this, &MaterialSheet::refresh);
}

const Json* MaterialSheet::product() const {
  const auto& list = session_->document().list("products");
  return index_ < list.size() ? list[index_].get() : nullptr;
}
bool MaterialSheet::is_label() const {
  const Json* p = product();
  return p && static_cast<std::size_t>(part_->currentIndex()) >= (*p)["parts"].size();
}
std::string MaterialSheet::path() const {
  return is_label() ? fmt::format("/products/{}/label/material", index_)
                    : fmt::format("/products/{}/parts/{}/material", index_, part_->currentIndex());
}
Json MaterialSheet::material() const {
  const Json* p = product();
  if (!p || part_->currentIndex() < 0) return {};
  const Json& thing = is_label() ? (*p)["label"] : (*p)["parts"][static_cast<std::size_t>(part_->currentIndex())];
  return thing.value("material", Json::object());
}

void MaterialSheet::refresh() {
  const Json now = material();
  const ReadyMaterial* ready = ready_material_of(now);
  list_->clear();
  QListWidgetItem* chosen = nullptr;
  for (const ReadyMaterial& m : ready_materials()) {
    if (is_label() && !m.sheet) continue;
    QPixmap empty(Swatches::wide, Swatches::tall);
    empty.fill(palette().color(QPalette::AlternateBase));
    const QImage image = swatches_->of(m.id);
    auto* item = new QListWidgetItem(iconOf(image.isNull() ? empty : QPixmap::fromImage(image)), q(m.name), list_);
    item->setData(Qt::UserRole, q(m.id));
    item->setToolTip(q(m.group));
    if (ready && ready->id == m.id) chosen = item;
  }
  if (chosen) list_->setCurrentItem(chosen);
  const std::string kind = now.contains("cover") ? now["cover"].value("kind", "") : "";
  cover_->setCurrentIndex(std::max(0, cover_->findData(q(kind))));
  if (!kind.empty()) {
    const double covered = now["cover"].value("share", 0.3);
    int nearest = 0;
    for (int i = 1; i < much_->count(); ++i)
      if (std::abs(much_->itemData(i).toDouble() - covered) <
          std::abs(much_->itemData(nearest).toDouble() - covered))
        nearest = i;
    much_->setCurrentIndex(nearest);
  }
  much_->setEnabled(!kind.empty());
  const QString name = ready ? q(ready->name) : tr("a %1 of its own").arg(q(now.value("kind", "matte")));
  words_->setText(part_->count() > 0
                      ? tr("Now: %1. Colours of the pictures are examples; a part keeps its own where "
                           "it has the same kind.")
                            .arg(name)
                      : tr("No product yet."));
}

/// A material of the same kind keeps the part's own colour, which the label or the brand may ask for.
void MaterialSheet::take() {
  const QListWidgetItem* item = list_->currentItem();
  if (!item || !product()) return;
  const std::string id = item->data(Qt::UserRole).toString().toStdString();
  for (const ReadyMaterial& m : ready_materials()) {
    if (m.id != id) continue;
    Json next = m.material;
    const Json now = material();
    if (now.contains("colour") && now.value("kind", "") == next.value("kind", "") &&
        next.value("screen", 0.0) == 0.0)
      next["colour"] = now["colour"];
    const std::string cover = cover_->currentData().toString().toStdString();
    for (const ReadyCover& c : ready_covers())
      if (c.kind == cover)
        next["cover"] = {{"kind", cover}, {"share", much_->currentData().toDouble()}, {"size", c.size}};
    if (next == now) return;
    session_->keep(tr("%1: %2").arg(part_->currentText(), q(m.name)), {{path(), next}});
    return;
  }
}

}  // namespace cinnabar
