// Where the film runs, and the means there are.
#include <fmt/format.h>

#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QVBoxLayout>
#include <cmath>

#include "cinnabar/base/text.h"
#include "cinnabar/desktop/brief/run_fields.h"
#include "cinnabar/desktop/controls/number_grid.h"
#include "cinnabar/desktop/pages/brief_page.h"
#include "cinnabar/desktop/theme/theme.h"
#include "cinnabar/desktop/theme/words.h"
#include "cinnabar/planning/house.h"
#include "cinnabar/planning/order.h"
#include "cinnabar/planning/packing.h"
#include "cinnabar/planning/room.h"

namespace cinnabar {

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
  fields_ = grid(specs_, 11);
  means_ = grid(meansSpecs_, 9);
  says_ = new PlainLabel(this);
  says_->setTextFormat(Qt::RichText);  // in two inks; what is said is escaped
  says_->setObjectName("briefSays");
  says_->setWordWrap(true);
  auto* all = new QVBoxLayout(this);
  all->setContentsMargins(14, 32, 14, 8);
  all->setSpacing(5);
  all->addWidget(guides);
  all->addLayout(line);
  all->addWidget(fields_);
  all->addWidget(means_);
  all->addWidget(says_);
  connectParts();
  connect(list_, &QComboBox::activated, this, [this, guides](int i) {
    index_ = static_cast<std::size_t>(std::max(0, i));
    guides->show(index_);
    refresh();
  });
  connect(session_, &Session::changed, this, [this, guides] {
    refresh();
    guides->show(index_);
  });
  refresh();
}

/// Numbers that are kept as they are entered.
NumberGrid* BriefRuns::grid(std::vector<HandField>& specs, std::size_t usual) {
  auto* numbers = new NumberGrid({.across = 5}, usual, this);
  connect(numbers, &NumberGrid::entered, this, [this, &specs](std::size_t at, double v) {
    if (at >= specs.size()) return;
    const auto values = specs[at].set(v);
    const QString title = specs[at].title(v);
    if (!session_->keep(title, values)) refresh();
  });
  connect(numbers, &NumberGrid::refused, session_, &Session::message);
  return numbers;
}

/// What its name, its words and the buttons beside it do.
void BriefRuns::connectParts() {
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
}

std::string BriefRuns::path() const { return fmt::format("/deliverables/{}", index_); }

void BriefRuns::refresh() {
  if (!isVisible()) return;  // brought up to date when it is shown
  const auto& list = session_->project().deliverables;
  if (index_ >= list.size()) index_ = 0;
  list_->clear();
  for (const Deliverable& d : list) list_->addItem(tr("%1, %2 x %3").arg(q(d.name)).arg(d.width).arg(d.height));
  list_->setCurrentIndex(list.empty() ? -1 : static_cast<int>(index_));
  const bool there = index_ < list.size();
  for (QWidget* w : std::initializer_list<QWidget*>{name_, words_, remove_}) w->setVisible(there);
  if (there) {
    if (!name_->hasFocus() || !name_->isModified()) name_->setText(q(list[index_].name));
    words_->setChecked(list[index_].words.has_value());
  }
  specs_ = there ? deliverableFields(*session_, index_) : std::vector<HandField>{};
  meansSpecs_ = meansFields(*session_);
  fields_->setNumbers(specsOf(specs_));
  means_->setNumbers(specsOf(meansSpecs_));
  tell();
}

/// What follows from all that, in words.
void BriefRuns::tell() {
  const Project& project = session_->project();
  const auto length = [units = session_->units()](double v) { return q(length_text(v, units)); };
  QStringList said, wrong;
  const double seconds = project.screen_time();
  for (const Deliverable& d : project.deliverables) {
    const double rate = parse_rate(session_->document().find("deliverables", d.id)->value("rate", ""))
                            .value_or(project.timeline_rate);
    if (const double times = rate / project.timeline_rate; std::abs(times - std::round(times)) > 1e-6)
      wrong << tr("%1 runs at %2 and the timeline at %3: frames would be repeated or dropped.")
                   .arg(q(d.name), q(number_text(rate, 6)), q(number_text(project.timeline_rate, 6)));
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
  for (const std::string& fault : house_faults(project)) wrong << q(fault);
  if (const auto light = daylight(project)) {
    said << tr("The sun is up for %1 h that day, at most %2\u00b0 high.")
                .arg(q(fixed_text(light->hours, 1)), q(fixed_text(light->highest_deg, 0)));
    if (const double hours = hours_by_the_window(project); hours > 0)
      said << tr("Shots by the window take %1 h.").arg(q(fixed_text(hours, 1)));
  }
  if (project.shots.size() > 1) {
    QStringList numbers;
    const auto order = shooting_order(project);
    for (const std::size_t i : order) numbers << QString::number(i + 1);
    if (numbers.size() <= 30)
      said << tr("Shot in the order %1, %2 things moved between set-ups.")
                  .arg(numbers.join(", "))
                  .arg(things_moved(project, order));
  }
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
