// What must be seen, and where the film runs.
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
#include "cinnabar/desktop/edits/number_words.h"
#include "cinnabar/desktop/pages/brief_page.h"
#include "cinnabar/desktop/theme/theme.h"
#include "cinnabar/desktop/widgets/levels_panel.h"
#include "cinnabar/desktop/widgets/product_drawing.h"
#include "cinnabar/planning/packing.h"
#include "cinnabar/planning/room.h"
#include "cinnabar/scene/form.h"
#include "cinnabar/scene/view.h"

namespace cinnabar {
namespace {
QString q(const std::string& s) { return QString::fromStdString(s); }
constexpr int rowTall = 42, rowsTop = 34;
double bearingOf(const Vec3& at) { return degrees(std::atan2(at.x, at.z)); }
}  // namespace

BriefSeen::BriefSeen(Session* session, BriefProduct* product, QWidget* parent)
    : QWidget(parent), session_(session), product_(product) {
  setObjectName("briefSeen");
  setAccessibleName(tr("What must be seen"));
  setAccessibleDescription(tr("Up and Down choose a feature, Insert adds one, Delete takes it away"));
  setFocusPolicy(Qt::StrongFocus);
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
  connect(session_, &Session::changed, this, &BriefSeen::refresh);
  refresh();
}

const Product* BriefSeen::product() const {
  const auto& list = session_->project().products;
  return product_->product() < list.size() ? list[product_->product()].get() : nullptr;
}
std::string BriefSeen::path() const { return fmt::format("/products/{}", product_->product()); }
QRectF BriefSeen::row(std::size_t i) const {
  return {10, rowsTop + static_cast<double>(i) * rowTall, width() - 20.0, rowTall - 4.0};
}

void BriefSeen::choose(std::optional<std::size_t> feature) {
  const Product* p = product();
  chosen_ = p && feature && *feature < p->features.size() ? feature : std::nullopt;
  refresh();
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
  worker_.ask([this, self, project = session_->project()](const std::atomic<bool>& cancelled) {
    const auto views = std::make_shared<const std::vector<FeatureView>>(
        feature_views(Forecaster(search_measure), project, &cancelled));
    if (cancelled) return;
    QMetaObject::invokeMethod(
        this,
        [self, views] {
          if (!self) return;
          self->views_ = *views;
          self->update();
        },
        Qt::QueuedConnection);
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
  session_->keep(tr("%1 placed").arg(q(p->features[feature].name)),
                 {{fmt::format("{}/features/{}/at", path(), feature),
                   Json{tidy(at.x), tidy(height), tidy(at.z)}}});
}

void BriefSeen::add() {
  const Product* p = product();
  if (!p || session_->readOnly()) return;
  const auto [low, high] = height_span(*p);
  const double radius = reach_at(*p, (low + high) / 2, 0.0);
  const Json* json = session_->document().list("products")[product_->product()].get();
  Json features = json->value("features", Json::array());
  std::string id;
  for (int k = 1;
       id.empty() || std::any_of(features.begin(), features.end(), [&](const Json& f) { return f["id"] == id; });
       ++k)
    id = "f" + std::to_string(k);
  features.push_back({{"id", id},
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
    const QColor color = level.state == State::out ? t.accent : level.state == State::leaning ? t.leaning : t.ink;
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

namespace {

/// A full recording with every deliverable's frame in it, and the room for words of the one in hand.
class Guides : public QWidget {
 public:
  Guides(Session* session, QWidget* parent) : QWidget(parent), session_(session) {
    setFixedHeight(118);
    setAccessibleName(QObject::tr("Frames of the deliverables in a full recording"));
  }
  void show(std::size_t index) {
    index_ = index;
    update();
  }

 protected:
  void paintEvent(QPaintEvent*) override {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const Theme& t = theme();
    const auto& list = session_->project().deliverables;
    double aspect = 16.0 / 9;
    for (const auto& camera : session_->project().cameras)
      if (!camera->modes.empty()) aspect = static_cast<double>(camera->modes[0].width) / camera->modes[0].height;
    const double h = height() - 6.0, w = std::min(width() - 2.0, h * aspect);
    const QRectF full(1, 3, w, w / aspect);
    p.fillRect(full, t.track);
    p.setBrush(Qt::NoBrush);
    const QList<QColor> colors{t.ink, t.accent, t.good, t.leaning};
    for (std::size_t i = 0; i < list.size(); ++i) {
      const double own = static_cast<double>(list[i].width) / list[i].height;
      QSizeF size(full.width(), full.width() / own);
      if (size.height() > full.height()) size = {full.height() * own, full.height()};
      const QRectF box(full.center() - QPointF(size.width() / 2, size.height() / 2), size);
      p.setPen(QPen(colors[static_cast<int>(i) % 4], i == index_ ? 2.4 : 1.4));
      p.drawRect(box.adjusted(0.7, 0.7, -0.7, -0.7));
      if (i == index_ && list[i].words) {
        const Words& words = *list[i].words;
        const QRectF area(box.left() + words.x * box.width(), box.top() + words.y * box.height(),
                          words.width * box.width(), words.height * box.height());
        p.setPen(QPen(t.quiet, 1, Qt::DashLine));
        p.drawRect(area);
        drawText(p, area.adjusted(3, 2, -3, -2), Qt::AlignLeft | Qt::AlignTop, QObject::tr("words"), textFont(10),
                 t.quiet);
      }
    }
  }

 private:
  Session* session_;
  std::size_t index_ = 0;
};

}  // namespace

BriefRuns::BriefRuns(Session* session, QWidget* parent) : QWidget(parent), session_(session) {
  setObjectName("briefRuns");
  auto* guides = new Guides(session, this);
  list_ = new QComboBox(this);
  list_->setObjectName("deliverables");
  list_->setAccessibleName(tr("Deliverable"));
  name_ = new QLineEdit(this);
  name_->setObjectName("deliverableName");
  name_->setAccessibleName(tr("Name of the deliverable"));
  name_->setMaximumWidth(64);
  const auto button = [this](const QString& text, const char* id, WordButton::Look look) {
    auto* b = new WordButton(text, look, this);
    b->setObjectName(id);
    return b;
  };
  words_ = button(tr("words"), "deliverableWords", WordButton::Look::chip);
  words_->setCheckable(true);
  add_ = button(tr("+"), "deliverableAdd", WordButton::Look::plain);
  add_->setAccessibleName(tr("Add a deliverable"));
  remove_ = button(tr("off"), "deliverableRemove", WordButton::Look::plain);
  remove_->setAccessibleName(tr("Take the deliverable away"));
  auto* line = new QHBoxLayout;
  line->addWidget(list_, 1);
  line->addWidget(name_);
  line->addWidget(words_);
  line->addWidget(remove_);
  line->addWidget(add_);
  auto* grid = new QGridLayout;
  auto* meansGrid = new QGridLayout;
  const auto build = [this](QGridLayout* in, std::vector<NumberField*>& list, std::vector<HandField>& specs,
                            int count) {
    for (int i = 0; i < count; ++i) {
      auto* field = new NumberField(this);
      in->addWidget(field, i / 5, i % 5);
      in->setColumnStretch(i % 5, 1);
      const auto at = static_cast<std::size_t>(i);
      connect(field, &NumberField::entered, this, [this, at, &specs](double v) {
        if (at >= specs.size()) return;
        const auto values = specs[at].set(v);
        const QString title = specs[at].title(v);
        if (!session_->keep(title, values)) refresh();
      });
      connect(field, &NumberField::refused, session_, &Session::message);
      list.push_back(field);
    }
  };
  build(grid, fields_, specs_, 9);
  build(meansGrid, means_, meansSpecs_, 5);
  says_ = new QLabel(this);
  says_->setObjectName("briefSays");
  says_->setWordWrap(true);
  auto* all = new QVBoxLayout(this);
  all->setContentsMargins(14, 32, 14, 8);
  all->setSpacing(5);
  all->addWidget(guides);
  all->addLayout(line);
  all->addLayout(grid);
  all->addLayout(meansGrid);
  all->addWidget(says_);
  connect(list_, &QComboBox::activated, this, [this, guides](int i) {
    index_ = static_cast<std::size_t>(std::max(0, i));
    guides->show(index_);
    refresh();
  });
  connect(name_, &QLineEdit::editingFinished, this, [this] {
    const std::string text = name_->text().trimmed().toStdString();
    const auto& list = session_->project().deliverables;
    if (index_ < list.size() && !text.empty() && text != list[index_].name)
      session_->keep(tr("Deliverable named %1").arg(q(text)), {{path() + "/name", text}});
  });
  connect(words_, &WordButton::clicked, this, [this](bool on) {
    session_->keep(
        on ? tr("Room for words") : tr("No room for words"),
        {{path() + "/words",
          on ? std::optional<Json>(Json{{"area", {0.05, 0.1, 0.28, 0.5}}, {"last_seconds", 3}}) : std::nullopt}});
  });
  connect(add_, &WordButton::clicked, this, [this] {
    const auto& list = session_->document().list("deliverables");
    std::string id;
    for (int k = 1; id.empty() || session_->document().find("deliverables", id); ++k) id = "d" + std::to_string(k);
    Document next = session_->document();
    next.lists["deliverables"].push_back(
        std::make_shared<const Json>(Json{{"id", id}, {"name", "1:1"}, {"width", 1080}, {"height", 1080}}));
    index_ = list.size();
    session_->keep(edit_between(session_->document(), next, tr("Deliverable added").toStdString()));
  });
  connect(remove_, &WordButton::clicked, this, [this] {
    Document next = session_->document();
    auto& list = next.lists["deliverables"];
    if (index_ >= list.size()) return;
    list.erase(list.begin() + static_cast<std::ptrdiff_t>(index_));
    session_->keep(edit_between(session_->document(), next, tr("Deliverable taken away").toStdString()));
  });
  connect(session_, &Session::changed, this, [this, guides] {
    refresh();
    guides->show(index_);
  });
  refresh();
}

std::string BriefRuns::path() const { return fmt::format("/deliverables/{}", index_); }

void BriefRuns::refresh() {
  if (!isVisible()) return;  // brought up to date when it is shown
  const Project& project = session_->project();
  const auto& list = project.deliverables;
  if (index_ >= list.size()) index_ = 0;
  list_->clear();
  for (const Deliverable& d : list) list_->addItem(tr("%1, %2 x %3").arg(q(d.name)).arg(d.width).arg(d.height));
  list_->setCurrentIndex(list.empty() ? -1 : static_cast<int>(index_));
  const bool there = index_ < list.size();
  for (QWidget* w : std::initializer_list<QWidget*>{name_, words_, remove_}) w->setVisible(there);
  const Units units = session_->units();
  const double unsaid = std::nan("");
  const auto optional = [unsaid](auto typed) {
    return [typed, unsaid](const QString& t) -> std::optional<double> {
      return t.trimmed().isEmpty() || t.trimmed() == QObject::tr("none") ? std::optional(unsaid) : typed(t);
    };
  };
  const auto orNone = [](auto shown) {
    return [shown](double v) { return std::isnan(v) ? QObject::tr("none") : shown(v); };
  };
  specs_.clear(), meansSpecs_.clear();
  const auto put = [](std::vector<HandField>& specs, const QString& label, const QString& id, double value,
                      double step, std::function<QString(double)> text,
                      std::function<std::optional<double>(const QString&)> parse,
                      std::function<Session::Values(double)> set) {
    specs.push_back({{label, id, value, step, text, std::move(parse)}, std::move(set), [label, text](double v) {
                       return label + " " + text(v);
                     }});
  };
  const auto member = [](const std::string& pointer) {
    return [pointer](double v) -> Session::Values {
      return {{pointer, std::isnan(v) ? std::nullopt : std::optional<Json>(v)}};
    };
  };
  const auto plain = [](double v) { return q(number_text(v, 6)); };
  if (there) {
    const Deliverable& d = list[index_];
    if (!name_->hasFocus() || !name_->isModified()) name_->setText(q(d.name));
    words_->setChecked(d.words.has_value());
    put(specs_, tr("Wide"), "d_width", d.width, 10, plain, numberTyped("px"), member(path() + "/width"));
    put(specs_, tr("High"), "d_height", d.height, 10, plain, numberTyped("px"), member(path() + "/height"));
    put(specs_, tr("At least"), "d_shortest", d.shortest.value_or(unsaid), 1, orNone(numberShown("s", 1)),
        optional(numberTyped("s")), member(path() + "/shortest"));
    put(specs_, tr("At most"), "d_longest", d.longest.value_or(unsaid), 1, orNone(numberShown("s", 1)),
        optional(numberTyped("s")), member(path() + "/longest"));
    if (d.words) {
      const Words& w = *d.words;
      const auto part = [this](int k, const Words& of) {
        return [this, k, of](double v) -> Session::Values {
          Json area{of.x, of.y, of.width, of.height};
          area[static_cast<std::size_t>(k)] = std::clamp(v, 0.0, 1.0);
          return {{path() + "/words/area", area}};
        };
      };
      const auto percent = [](double v) { return q(fixed_text(100 * v, 0)) + " %"; };
      const auto typed = numberTyped("%", 0.01);
      put(specs_, tr("Words from left"), "w_x", w.x, 0.01, percent, typed, part(0, w));
      put(specs_, tr("from top"), "w_y", w.y, 0.01, percent, typed, part(1, w));
      put(specs_, tr("wide"), "w_width", w.width, 0.01, percent, typed, part(2, w));
      put(specs_, tr("high"), "w_height", w.height, 0.01, percent, typed, part(3, w));
      put(specs_, tr("in the last"), "w_last", w.last_seconds, 0.5, numberShown("s", 1), numberTyped("s"),
          member(path() + "/words/last_seconds"));
    }
  }
  const auto mean = [&](const QString& label, const QString& id, const std::string& key,
                        std::optional<double> value, double step, std::function<QString(double)> text,
                        std::function<std::optional<double>(const QString&)> parse) {
    const Json* info = session_->document().single("project");
    const bool has = info && info->contains("means");
    put(meansSpecs_, label, id, value.value_or(unsaid), step, orNone(text), optional(parse),
        [key, has](double v) -> Session::Values {
          if (!has) return std::isnan(v) ? Session::Values{} : Session::Values{{"/project/means", Json{{key, v}}}};
          return {{"/project/means/" + key, std::isnan(v) ? std::nullopt : std::optional<Json>(v)}};
        });
  };
  const auto length = [units](double v) { return q(length_text(v, units)); };
  const auto typedLength = [units](const QString& t) { return parse_length(t.toStdString(), units); };
  mean(tr("Budget"), "m_budget", "budget", project.means.budget, 10, plain, numberTyped());
  mean(tr("Room wide"), "m_width", "room_width", project.means.room_width, 0.1, length, typedLength);
  mean(tr("deep"), "m_depth", "room_depth", project.means.room_depth, 0.1, length, typedLength);
  mean(tr("high"), "m_height", "room_height", project.means.room_height, 0.1, length, typedLength);
  mean(tr("Circuits"), "m_circuits", "circuits", project.means.circuits, 1, plain, numberTyped());
  for (auto [fields, specs] : {std::pair{&fields_, &specs_}, std::pair{&means_, &meansSpecs_}})
    for (std::size_t i = 0; i < fields->size(); ++i) {
      const bool used = i < specs->size();
      if (used) (*fields)[i]->setSpec((*specs)[i].spec);
      (*fields)[i]->setVisible(used);
    }
  // What follows from all that, in words.
  QStringList said, wrong;
  const double seconds = project.screen_time();
  for (const Deliverable& d : list) {
    if (d.longest && seconds > *d.longest + 1e-6)
      wrong << tr("%1: %2 s over its longest").arg(q(d.name), q(fixed_text(seconds - *d.longest, 1)));
    if (d.shortest && seconds < *d.shortest - 1e-6)
      wrong << tr("%1: %2 s under its shortest").arg(q(d.name), q(fixed_text(*d.shortest - seconds, 1)));
  }
  const RoomNeeds needs = room_needs(project);
  if (needs.width > 0)
    said << tr("The set-ups need %1 x %2 of floor and %3 of height; %4 W at once.")
                .arg(length(needs.width), length(needs.depth), length(needs.height),
                     q(number_text(needs.watts, 5)));
  for (const std::string& fault : room_faults(project, needs)) wrong << q(fault);
  const Packing packed = packing(project);
  if (project.means.budget)
    (packed.cost > *project.means.budget ? wrong : said)
        << tr("%1 of %2 is needed for what is missing.")
               .arg(q(number_text(packed.cost, 7)), q(number_text(*project.means.budget, 7)));
  const Theme& t = theme();
  says_->setText(
      QString("<span style='color:%1'>%2</span> <span style='color:%3'>%4</span>")
          .arg(t.quiet.name(), said.join(" ").toHtmlEscaped(), t.accent.name(), wrong.join(" ").toHtmlEscaped()));
}

void BriefRuns::paintEvent(QPaintEvent*) {
  QPainter p(this);
  drawPanel(p, rect());
  drawText(p, {14, 9, 200, 18}, Qt::AlignLeft | Qt::AlignVCenter, tr("Where it runs, and the means"),
           textFont(13, true), theme().ink);
}

}  // namespace cinnabar
