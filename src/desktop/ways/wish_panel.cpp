#include "cinnabar/desktop/ways/wish_panel.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QVBoxLayout>

#include "cinnabar/base/text.h"
#include "cinnabar/desktop/stage/vial.h"
#include "cinnabar/desktop/theme/theme.h"
#include "cinnabar/desktop/theme/words.h"
#include "cinnabar/desktop/ways/way_searches.h"
#include "cinnabar/scene/view.h"

namespace cinnabar {
WishLine::WishLine(int number, Session* session, QWidget* parent) : QWidget(parent), session_(session) {
  setObjectName(QString("wish-%1").arg(number));
  auto* row = new QHBoxLayout(this);
  row->setContentsMargins(0, 0, 0, 0);
  row->setSpacing(6);
  kind_ = new QComboBox(this);
  kind_->setObjectName(QString("wishKind-%1").arg(number));
  kind_->setAccessibleName(tr("What is wanted"));
  for (const WishKind& kind : wish_kinds()) {
    kind_->addItem(q(kind.title), q(kind.kind));
    kind_->setItemData(kind_->count() - 1, plainTip(q(kind.what)), Qt::ToolTipRole);
  }
  kind_->setMinimumWidth(120);
  kind_->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
  row->addWidget(kind_, 3);
  numbers_ = new AskedNumbers(session, this);
  row->addWidget(numbers_, 2);
  connect(numbers_, &AskedNumbers::changed, this, &WishLine::changed);
  from_ = new QComboBox(this);
  from_->setObjectName(QString("wishFrom-%1").arg(number));
  from_->setAccessibleName(tr("Bright at"));
  for (const auto& [id, word] : {std::pair{"bottom", tr("from the bottom")},
                                 {"top", tr("from the top")},
                                 {"left", tr("from the left")},
                                 {"right", tr("from the right")}})
    from_->addItem(word, id);
  row->addWidget(from_, 2);
  place_ = new PlainLabel(this);
  place_->setObjectName(QString("wishPlace-%1").arg(number));
  place_->setWordWrap(true);
  row->addWidget(place_, 2);
  leave_ = new WordButton(tr("no"), WordButton::Look::chip, this);
  leave_->setCheckable(false);
  leave_->setObjectName(QString("leaveWish-%1").arg(number));
  leave_->setAccessibleName(tr("Leave this wish out"));
  leave_->setVisible(number > 1);
  row->addWidget(leave_);
  connect(leave_, &WordButton::clicked, this, &WishLine::leaveOutWanted);
  connect(kind_, &QComboBox::currentIndexChanged, this, [this] {
    numbers_->ask(kind().numbers);
    refresh();
    emit changed();
  });
  connect(from_, &QComboBox::currentIndexChanged, this, &WishLine::changed);
  numbers_->ask(kind().numbers);
  refresh();
}

const WishKind& WishLine::kind() const {
  return wish_kinds()[static_cast<std::size_t>(std::max(0, kind_->currentIndex()))];
}
void WishLine::setKind(int kind) { kind_->setCurrentIndex(kind); }

void WishLine::refresh() {
  const WishKind& now = kind();
  from_->setVisible(now.from);
  place_->setVisible(now.at);
  if (!at_) return place_->setText(tr("click a place of the product"));
  const auto mm = [](double v) { return q(fixed_text(1e3 * v, 0)); };
  place_->setText(tr("at its %1, %2, %3 mm").arg(mm(at_->x), mm(at_->y), mm(at_->z)));
}

bool WishLine::takePlace(const PlaceMet& met) {
  const WishKind& now = kind();
  const auto across =
      std::find_if(now.numbers.begin(), now.numbers.end(), [](const AskedNumber& n) { return n.across; });
  const Shot* shot = session_->shot();
  if (!shot || shot->products.empty() || met.role != Role::product) return false;
  if (now.at) {  // on the product, which may stand anywhere and be turned by then
    at_ = product_at(session_->project(), *shot, shot->products.front(), session_->setTime()).own(met.at);
    refresh();
    emit changed();
    return true;
  }
  if (across == now.numbers.end()) return false;
  numbers_->set(across->key, std::round(100.0 * across->range.clamped(met.across)) / 100.0);
  return true;
}

std::optional<Wish> WishLine::wish() const {
  const WishKind& now = kind();
  if (now.at && !at_) return std::nullopt;
  Wish wish{now.kind, numbers_->values(), now.at ? at_ : std::nullopt,
            now.from ? from_->currentData().toString().toStdString() : std::string()};
  return wish;
}

WishPanel::WishPanel(Session* session, Foresight* foresight, QWidget* parent)
    : QWidget(parent), session_(session) {
  setObjectName("wishPanel");
  setAccessibleName(tr("A wish"));
  auto* all = new QHBoxLayout(this);
  all->setContentsMargins(10, 26, 8, 7);
  all->setSpacing(12);
  left_ = new QWidget(this);
  auto* column = new QVBoxLayout(left_);
  column->setContentsMargins(0, 0, 0, 0);
  column->setSpacing(3);
  for (std::size_t i = 0; i < most; ++i) {
    lines_[i] = new WishLine(static_cast<int>(i) + 1, session, left_);
    lines_[i]->setKind(static_cast<int>(i));
    column->addWidget(lines_[i]);
    connect(lines_[i], &WishLine::leaveOutWanted, this, [this] { setCount(count_ - 1); });
    connect(lines_[i], &WishLine::changed, this, [this, i] {
      current_ = i;
      emit unmirroredChanged();
    });
  }
  column->addStretch(1);
  all->addWidget(left_, 42);
  cards_ = new WayCards("wish", session, foresight, this);
  all->addWidget(cards_, 58);
  also_ = new WordButton(tr("and also"), WordButton::Look::chip, this);
  also_->setCheckable(false);
  also_->setObjectName("alsoWish");
  also_->setToolTip(tr("A wish more, met together with this one"));
  find_ = new WordButton(tr("Find ways"), WordButton::Look::plain, this);
  find_->setObjectName("findWish");
  auto* head = new QHBoxLayout;
  head->setSpacing(6);
  head->addWidget(also_);
  head->addWidget(find_);
  connect(also_, &WordButton::clicked, this, [this] { setCount(count_ + 1); });
  connect(find_, &WordButton::clicked, this, &WishPanel::find);
  column->addLayout(head);
  head->addStretch(1);
  setCount(1);
}

void WishPanel::showEvent(QShowEvent*) {
  if (session_->setup() == nullptr) cards_->clear(tr("A wish needs a shot with a set-up"));
}

void WishPanel::setCount(std::size_t count) {
  count_ = std::clamp<std::size_t>(count, 1, most);
  for (std::size_t i = 0; i < most; ++i) lines_[i]->setVisible(i < count_);
  also_->setVisible(count_ < most);
  current_ = std::min(current_, count_ - 1);
  emit unmirroredChanged();
}

std::vector<Vec3> WishPanel::unmirrored() const {
  std::vector<Vec3> list;
  for (std::size_t i = 0; i < count_; ++i)
    if (const auto wish = lines_[i]->wish(); wish && wish->kind == "no-mirror" && wish->at)
      list.push_back(*wish->at);
  return list;
}

void WishPanel::takePlace(const PlaceMet& met) {
  // The wish that was last touched first, else the first that wants a place.
  if (lines_[current_]->takePlace(met)) return;
  for (std::size_t i = 0; i < count_; ++i)
    if (i != current_ && lines_[i]->takePlace(met)) return;
}

void WishPanel::find() {
  if (!session_->setup()) return cards_->clear(tr("A wish needs a shot with a set-up"));
  std::vector<Wish> wishes;
  for (std::size_t i = 0; i < count_; ++i) {
    auto wish = lines_[i]->wish();
    if (!wish)
      return cards_->clear(
          tr("\"%1\" wants a place: click it in the picture, or go there with the picture's arrow keys")
              .arg(q(lines_[i]->kind().title)));
    wishes.push_back(*std::move(wish));
  }
  cards_->seek(waysToWishes(cards_->forecaster(), std::move(wishes)));
}

void WishPanel::paintEvent(QPaintEvent*) {
  drawWaysHead(*this, tr("A wish"), tr("what is to be seen, and where things have to stand for it"));
}

}  // namespace cinnabar
