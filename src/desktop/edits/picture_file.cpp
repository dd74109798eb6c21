#include "cinnabar/desktop/edits/picture_file.h"

#include <fmt/format.h>

#include <QBuffer>
#include <QFileInfo>
#include <QImage>
#include <QImageReader>

#include "cinnabar/base/files.h"
#include "cinnabar/color/picture.h"

namespace cinnabar {

Expected<QByteArray> png_read(const QString& file) {
  const std::string name = QFileInfo(file).fileName().toStdString();
  const auto bytes = read_file(file.toStdString(), 64u << 20);
  if (!bytes) return tl::unexpected(bytes.error());
  QByteArray seen = QByteArray::fromRawData(bytes->data(), static_cast<qsizetype>(bytes->size()));
  QBuffer buffer(&seen);
  buffer.open(QIODevice::ReadOnly);
  QImageReader reader(&buffer);
  const QSize size = reader.size();
  if (size.width() > widest_png || size.height() > widest_png)
    return fail(name, fmt::format("is {} x {} pixels", size.width(), size.height()),
                fmt::format("give one of at most {0} x {0}", widest_png));
  const QSize kept = size.scaled(kept_side, kept_side, Qt::KeepAspectRatio);
  if (size.isValid() && kept.width() < size.width()) reader.setScaledSize(kept.expandedTo({1, 1}));
  QImage image;
  if (!reader.read(&image)) return fail(name, "is no picture that can be read", "give a PNG, JPEG or SVG");
  if (image.width() > kept_side || image.height() > kept_side)
    image = image.scaled(kept_side, kept_side, Qt::KeepAspectRatio, Qt::SmoothTransformation);
  QByteArray png;
  QBuffer out(&png);
  out.open(QIODevice::WriteOnly);
  image.save(&out, "PNG");
  return png;
}

}  // namespace cinnabar
