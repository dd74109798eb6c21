#include "cinnabar/desktop/begin/lately.h"

#include <QAbstractButton>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QPainter>
#include <QPointer>
#include <QSettings>

#include "cinnabar/base/text.h"
#include "cinnabar/desktop/theme/theme.h"
#include "cinnabar/desktop/theme/words.h"
#include "cinnabar/desktop/workers/later.h"
#include "cinnabar/desktop/workers/picture_maker.h"
#include "cinnabar/formats/demo.h"
#include "cinnabar/project/checks/validation.h"
#include "cinnabar/project/model/entities.h"
#include "cinnabar/project/store/store.h"

namespace cinnabar {
namespace {

constexpr int most_lately = 2;

class SpotTile : public QAbstractButton {
 public:
  SpotTile(const QString& name, const QString& what, QWidget* parent) : QAbstractButton(parent), what_(what) {
    setText(name);
    setFocusPolicy(Qt::StrongFocus);
    setCursor(Qt::PointingHandCursor);
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
    setMinimumWidth(110);
    setFixedHeight(72);
    tell();
  }
  void setWhat(const QString& what) {
    what_ = what;
    tell();
    update();
  }
  void setPicture(const QImage& picture) {
    picture_ = picture;
    update();
  }

 protected:
  void paintEvent(QPaintEvent*) override {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    p.setRenderHint(QPainter::SmoothPixmapTransform);
    const Theme& t = theme();
    p.setPen(QPen(underMouse() ? t.quiet : t.line, 1));
    p.setBrush(t.dark ? t.panel.lighter(118) : t.ground);
    p.drawRoundedRect(QRectF(rect()).adjusted(0.5, 0.5, -0.5, -0.5), 3, 3);
    const QRectF at(5, 5, std::min(84.0, width() * 0.36), height() - 10.0);
    p.fillRect(at, t.mat);
    if (!picture_.isNull()) {  // its middle
      const double scale = std::max(at.width() / picture_.width(), at.height() / picture_.height());
      const QSizeF part(at.width() / scale, at.height() / scale);
      p.drawImage(at, picture_,
                  {QPointF((picture_.width() - part.width()) / 2, (picture_.height() - part.height()) / 2), part});
    }
    const double x = at.right() + 9, wide = width() - x - 6;
    drawText(p, {x, 14, wide, 18}, Qt::AlignLeft | Qt::AlignVCenter, text(), textFont(12.5, true), t.ink);
    drawText(p, {x, 34, wide, 16}, Qt::AlignLeft | Qt::AlignVCenter, what_, textFont(11), t.quiet);
    if (hasFocus()) drawFocus(p, QRectF(rect()).adjusted(2, 2, -2, -2));
  }

 private:
  void tell() { setAccessibleName(what_.isEmpty() ? text() : text() + ", " + what_); }
  QString what_;
  QImage picture_;
};

struct Glimpse {
  QString name, what;
  QImage picture;
};
Glimpse glimpse(const Document& document, const std::atomic<bool>& cancelled) {
  ProjectReader reader;
  const Project p = reader.read(document);
  Glimpse g;
  g.name = q(p.name);
  g.what = QObject::tr("%1 s, %2")
               .arg(q(number_text(p.screen_time(), 3)), counted(static_cast<qsizetype>(p.shots.size()),
                                                                QObject::tr("%1 shot"), QObject::tr("%1 shots")));
  if (!p.takes.empty())
    g.what +=
        ", " + counted(static_cast<qsizetype>(p.takes.size()), QObject::tr("%1 take"), QObject::tr("%1 takes"));
  for (const auto& shot : p.shots)
    if (!cancelled && shot->camera) {
      g.picture = thumbnail(p, *shot, 120, cancelled);
      break;
    }
  return g;
}

}  // namespace

Lately::Lately(QWidget* parent) : QWidget(parent) {
  setObjectName("lately");
  auto* row = new QHBoxLayout(this);
  row->setContentsMargins(14, 34, 14, 10);
  row->setSpacing(8);
}

void Lately::refresh() {
  for (QWidget* tile : findChildren<QWidget*>(QString(), Qt::FindDirectChildrenOnly)) tile->deleteLater();
  QStringList files;
  for (const QString& file : QSettings().value("recent").toStringList())
    if (files.size() < most_lately && QFileInfo::exists(file)) files << file;
  std::vector<QPointer<SpotTile>> tiles;
  for (const QString& file : files) {
    auto* tile = new SpotTile(QFileInfo(file).completeBaseName(), {}, this);
    tile->setObjectName("lately-" + QFileInfo(file).completeBaseName());
    tile->setToolTip(plainTip(file));
    connect(tile, &QAbstractButton::clicked, this, [this, file] { emit wanted(file); });
    layout()->addWidget(tile);
    tiles.emplace_back(tile);
  }
  auto* example = new SpotTile(tr("The finished example"), tr("hot honey on a dark sweep"), this);
  example->setObjectName("example");
  connect(example, &QAbstractButton::clicked, this, &Lately::exampleWanted);
  layout()->addWidget(example);
  tiles.emplace_back(example);
  for (QWidget* tile : findChildren<QWidget*>(QString(), Qt::FindDirectChildrenOnly)) tile->show();
  worker_.ask([files, tiles](const std::atomic<bool>& cancelled) {
    for (std::size_t i = 0; i < tiles.size() && !cancelled; ++i) {
      const bool own = i < static_cast<std::size_t>(files.size());
      const auto document = own ? read_document(files[static_cast<int>(i)].toStdString()) : demo_document();
      if (!document) continue;
      const Glimpse g = glimpse(*document, cancelled);
      if (cancelled) return;
      later(tiles[i], [tile = tiles[i], g, own] {
        if (own) {
          tile->setText(g.name);
          tile->setWhat(g.what);
        }
        tile->setPicture(g.picture);
      });
    }
  });
}

void Lately::paintEvent(QPaintEvent*) {
  QPainter p(this);
  drawPanel(p, rect());
  drawText(p, {14, 8, width() - 28.0, 20}, Qt::AlignLeft | Qt::AlignVCenter, tr("Lately"), textFont(13, true),
           theme().ink);
}

}  // namespace cinnabar
