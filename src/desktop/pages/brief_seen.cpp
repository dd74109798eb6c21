// What must be seen of the product.
#include <fmt/format.h>

#include <QComboBox>
#include <QGridLayout>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QLabel>
#include <QLineEdit>
#include <QMouseEvent>
#include <QPointer>
#include <QVBoxLayout>
#include <cmath>

#include "cinnabar/base/text.h"
#include "cinnabar/desktop/brief/product_drawing.h"
#include "cinnabar/desktop/edits/number_words.h"
#include "cinnabar/desktop/pages/brief_page.h"
#include "cinnabar/desktop/stage/levels_panel.h"
#include "cinnabar/desktop/theme/theme.h"
#include "cinnabar/desktop/theme/words.h"
#include "cinnabar/desktop/workers/later.h"
#include "cinnabar/project/making/new_shot.h"
#include "cinnabar/scene/form.h"
#include "cinnabar/scene/view.h"

namespace cinnabar {
namespace {
constexpr int rowTall = 42, rowsTop = 34;
double bearingOf(const Vec3& at) { return degrees(std::atan2(at.x, at.z)); }
}  // namespace

BriefSeen::BriefSeen(Session* session, BriefProduct* product, QWidget* parent)
    : Painted("briefSeen", tr("What must be seen"),
              tr("Up and Down choose a feature, Insert adds one, Delete takes it away"), parent),
      session_(session),
      product_(product) {
  name_ = new QLineEdit(this);
  name_->setObjectName("featureName");
  name_->setAccessibleName(tr("Name of the feature"));
  read_ = new WordButton(tr("to be read"), WordButton::Look::chip, this);
  read_->setObjectName("featureRead");
  read_->setCheckable(true);
  add_ = new WordButton(tr("+ feature"), WordButton::Look::plain, this);
  add_->setObjectName("featureAdd");
  remove_ = new WordButton(tr("off"), WordButton::Look::plain, this);
  remove_->setObjectName("featureRemove");
  remove_->setAccessibleName(tr("Take the feature away"));
  auto* line = new QHBoxLayout;
  line->addWidget(name_, 1);
  line->addWidget(read_);
  line->addWidget(remove_);
  line->addWidget(add_);
  auto* grid = new QGridLayout;
  for (int i = 0; i < 3; ++i) {
    auto* field = new NumberField(this);
    grid->addWidget(field, 0, i);
    fields_.push_back(field);
    connect(field, &NumberField::refused, session_, &Session::message);
    connect(field, &NumberField::entered, this, [this, i](double v) {
      const Product* p = this->product();
      if (!p || !chosen_) return;
      const Feature& f = p->features[*chosen_];
      if (i == 0)
        session_->keep(tr("Finest detail of %1").arg(q(f.name)),
                       {{fmt::format("{}/features/{}/detail", path(), *chosen_), std::max(1e-5, v)}});
      else
        place(*chosen_, i == 1 ? v : f.at.y, i == 2 ? v : bearingOf(f.at));
    });
  }
  auto* all = new QVBoxLayout(this);
  all->setContentsMargins(14, rowsTop, 14, 8);
  all->addStretch(1);
  all->addLayout(line);
  all->addLayout(grid);
  connectParts();
  connect(session_, &Session::changed, this, &BriefSeen::refresh);
  refresh();
}

/// What its name and its buttons do, and what the drawing tells it.
void BriefSeen::connectParts() {
  connect(name_, &QLineEdit::editingFinished, this, [this] {
    const Product* p = this->product();
    const std::string text = name_->text().trimmed().toStdString();
    if (p && chosen_ && !text.empty() && text != p->features[*chosen_].name)
      session_->keep(tr("Feature named %1").arg(q(text)),
                     {{fmt::format("{}/features/{}/name", path(), *chosen_), text}});
  });
  connect(read_, &WordButton::clicked, this, [this](bool on) {
    if (chosen_)
      session_->keep(on ? tr("Must be read") : tr("Must be noticed"),
                     {{fmt::format("{}/features/{}/read", path(), *chosen_), on}});
  });
  connect(add_, &WordButton::clicked, this, &BriefSeen::add);
  connect(remove_, &WordButton::clicked, this, &BriefSeen::remove);
  connect(product_, &BriefProduct::productChosen, this, [this] { choose({}); });
  connect(product_->drawing(), &ProductDrawing::featureChosen, this,
          [this](int i) { choose(static_cast<std::size_t>(i)); });
  connect(product_->drawing(), &ProductDrawing::featureMoved, this,
          [this](int i, double height, double bearing) { place(static_cast<std::size_t>(i), height, bearing); });
}

const Product* BriefSeen::product() const {
  const auto& list = session_->project().products;
  return product_->product() < list.size() ? list[product_->product()].get() : nullptr;
}
std::string BriefSeen::path() const { return fmt::format("/products/{}", product_->product()); }
QRectF BriefSeen::row(std::size_t i) const {
  return {10, rowsTop + static_cast<double>(i) * rowTall, width() - 20.0, rowTall - 4.0};
}

std::vector<ToldPart> BriefSeen::parts() const {
  std::vector<ToldPart> list;
  const Product* p = product();
  for (std::size_t i = 0; p && i < p->features.size(); ++i) {
    const Feature& f = p->features[i];
    const auto view = std::find_if(views_.begin(), views_.end(),
                                   [&](const FeatureView& v) { return v.product == p->id && v.feature == f.id; });
    list.push_back({q(f.name.empty() ? f.id : f.name),
                    view == views_.end() ? QString() : q(view->level().sentence), row(i).toRect(), chosen_ == i});
  }
  return list;
}

void BriefSeen::choose(std::optional<std::size_t> feature) {
  const Product* p = product();
  chosen_ = p && feature && *feature < p->features.size() ? feature : std::nullopt;
  refresh();
  tellChosenPart();
}

void BriefSeen::refresh() {
  if (!isVisible()) return;  // brought up to date when it is shown
  const Product* p = product();
  if (chosen_ && (!p || *chosen_ >= p->features.size())) chosen_.reset();
  if (!chosen_ && p && !p->features.empty()) chosen_ = 0;
  for (QWidget* w : std::initializer_list<QWidget*>{name_, read_, remove_}) w->setVisible(chosen_.has_value());
  add_->setEnabled(p);
  const Units units = session_->units();
  for (NumberField* field : fields_) field->setVisible(chosen_.has_value());
  setMinimumHeight(rowsTop + rowTall * static_cast<int>(p ? std::max<std::size_t>(1, p->features.size()) : 1) +
                   92);
  if (chosen_) {
    const Feature& f = p->features[*chosen_];
    if (!name_->hasFocus() || !name_->isModified()) name_->setText(q(f.name.empty() ? f.id : f.name));
    read_->setChecked(f.read);
    const auto length = [units](double v) { return q(length_text(v, units)); };
    const auto typed = [units](const QString& t) { return parse_length(t.toStdString(), units); };
    fields_[0]->setSpec({tr("Finest detail"), "feature_detail", f.detail.value_or(0.001), 0.0001, length, typed});
    fields_[1]->setSpec({tr("At height"), "feature_height", f.at.y, 0.001, length, typed});
    fields_[2]->setSpec(
        {tr("Round at"), "feature_bearing", bearingOf(f.at), 5, numberShown("\u00b0"), numberTyped("\u00b0")});
  }
  product_->drawing()->show(product_->product(), chosen_);
  ask();
  update();
}

/// Each feature through every shot, on a worker.
void BriefSeen::ask() {
  if (session_->previewing()) return;
  const QPointer<BriefSeen> self(this);
  worker_.ask([self, project = session_->project()](const std::atomic<bool>& cancelled) {
    const auto views = std::make_shared<const std::vector<FeatureView>>(
        feature_views(Forecaster(search_measure), project, &cancelled));
    if (cancelled) return;
    later(self, [self, views] {
      self->views_ = *views;
      self->update();
    });
  });
}

/// On the surface at a height and a bearing, seen from the front at 0.
void BriefSeen::place(std::size_t feature, double height, double bearing) {
  const Product* p = product();
  if (!p || feature >= p->features.size()) return;
  const auto [low, high] = height_span(*p);
  height = std::clamp(height, low, high);
  const auto side = side_at(*p, height, bearing);
  const Vec3 at = side ? side->at : Vec3{};
  const auto tidy = [](double v) { return std::round(v * 1e5) / 1e5; };
  session_->keep(
      tr("%1 placed").arg(q(p->features[feature].name)),
      {{fmt::format("{}/features/{}/at", path(), feature), Json{tidy(at.x), tidy(height), tidy(at.z)}}});
}

void BriefSeen::add() {
  const Product* p = product();
  if (!p || session_->readOnly()) return;
  const auto [low, high] = height_span(*p);
  const double radius = reach_at(*p, (low + high) / 2, 0.0);
  const Json* json = session_->document().list("products")[product_->product()].get();
  Json features = json->value("features", Json::array());
  features.push_back({{"id", fresh_id(features, "f")},
                      {"name", tr("feature %1").arg(features.size() + 1).toStdString()},
                      {"at", {0, (low + high) / 2, radius}},
                      {"detail", 0.002},
                      {"read", false}});
  const std::size_t at = features.size() - 1;
  if (session_->keep(tr("Feature added"), {{path() + "/features", features}})) choose(at);
}

void BriefSeen::remove() {
  const Product* p = product();
  if (!p || !chosen_) return;
  // The shots that promise it promise it no more.
  const std::string name = p->id + "/" + p->features[*chosen_].id;
  Session::Values values{{fmt::format("{}/features/{}", path(), *chosen_), std::nullopt}};
  const auto& shots = session_->document().list("shots");
  for (std::size_t i = 0; i < shots.size(); ++i) {
    const auto needs = shots[i]->find("needs");
    if (needs == shots[i]->end() || !needs->contains("features")) continue;
    Json left = Json::array();
    for (const Json& f : (*needs)["features"])
      if (f != name) left.push_back(f);
    if (left.size() != (*needs)["features"].size())
      values.push_back({fmt::format("/shots/{}/needs/features", i), left});
  }
  session_->keep(tr("Feature taken away"), values);
}

void BriefSeen::paintEvent(QPaintEvent*) {
  QPainter p(this);
  p.setRenderHint(QPainter::Antialiasing);
  const Theme& t = theme();
  drawPanel(p, rect());
  drawText(p, {14, 10, 200, 18}, Qt::AlignLeft | Qt::AlignVCenter, tr("Must be seen"), textFont(13, true), t.ink);
  drawText(p, {width() - 120.0, 10, 106, 18}, Qt::AlignRight | Qt::AlignVCenter, tr("best in shot"), textFont(11),
           t.quiet);
  const Product* product = this->product();
  if (!product || product->features.empty())
    return drawText(p, {14, rowsTop + 6, width() - 28.0, 20}, Qt::AlignLeft | Qt::AlignVCenter,
                    product ? tr("Nothing yet. Add what the client wants seen.") : tr("No product yet."),
                    textFont(12), t.quiet);
  for (std::size_t i = 0; i < product->features.size(); ++i) {
    const Feature& f = product->features[i];
    const QRectF r = row(i);
    if (chosen_ == i) {
      p.setPen(QPen(t.accent, 1.4));
      p.setBrush(Qt::NoBrush);
      p.drawRoundedRect(r, 3, 3);
      if (hasFocus()) drawFocus(p, r.adjusted(3, 3, -3, -3));
    }
    p.setPen(Qt::NoPen);
    p.setBrush(t.accent);
    p.drawEllipse(QPointF(r.left() + 14, r.top() + 13), 8, 8);
    drawText(p, {r.left() + 6, r.top() + 5, 16, 16}, Qt::AlignCenter, QString::number(i + 1), numberFont(11, true),
             t.panel);
    const double half = r.width() * 0.5;
    drawText(p, {r.left() + 30, r.top() + 3, half - 30, 18}, Qt::AlignLeft | Qt::AlignVCenter,
             q(f.name.empty() ? f.id : f.name), textFont(12.5), t.ink);
    drawText(p, {r.left() + 30, r.top() + 20, half - 30, 15}, Qt::AlignLeft | Qt::AlignVCenter,
             (f.read ? tr("read, %1") : tr("noticed, %1"))
                 .arg(q(length_text(f.detail.value_or(0.0), session_->units()))),
             textFont(11), t.quiet);
    const auto view = std::find_if(views_.begin(), views_.end(), [&](const FeatureView& v) {
      return v.product == product->id && v.feature == f.id;
    });
    if (view == views_.end()) continue;
    const Level level = view->level();
    drawVial(p, QRectF(r.left() + half, r.top() + 5, half - 62, 12), level);
    const QColor color = level.state == State::out       ? t.accent
                         : level.state == State::leaning ? t.leaningInk
                                                         : t.ink;
    drawText(p, {r.right() - 56, r.top() + 3, 50, 16}, Qt::AlignRight | Qt::AlignVCenter,
             !view->shot || !view->seen.seen() ? tr("none") : QString::number(*view->shot + 1),
             numberFont(12, true), color);
    drawText(p, {r.left() + half, r.top() + 20, half - 6, 15}, Qt::AlignLeft | Qt::AlignVCenter, q(level.sentence),
             textFont(10.5), level.state == State::level ? t.quiet : color);
  }
}

void BriefSeen::mousePressEvent(QMouseEvent* event) {
  const Product* p = product();
  for (std::size_t i = 0; p && i < p->features.size(); ++i)
    if (row(i).contains(event->position())) choose(i);
}
void BriefSeen::keyPressEvent(QKeyEvent* event) {
  const Product* p = product();
  const std::size_t count = p ? p->features.size() : 0;
  if (event->key() == Qt::Key_Insert) return add();
  if (event->key() == Qt::Key_Delete) return remove();
  if (event->key() == Qt::Key_Down && chosen_ && *chosen_ + 1 < count) return choose(*chosen_ + 1);
  if (event->key() == Qt::Key_Up && chosen_ && *chosen_ > 0) return choose(*chosen_ - 1);
  QWidget::keyPressEvent(event);
}

}  // namespace cinnabar
