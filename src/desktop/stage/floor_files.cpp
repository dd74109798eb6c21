// What is read from files for things on the floor: the curve of a gel, the picture of a pattern.
#include <QFileInfo>
#include <QPointer>

#include "cinnabar/base/files.h"
#include "cinnabar/desktop/controls/sheets.h"
#include "cinnabar/desktop/edits/picture_file.h"
#include "cinnabar/desktop/stage/floor_view.h"
#include "cinnabar/desktop/theme/words.h"
#include "cinnabar/desktop/workers/later.h"
#include "cinnabar/formats/gel_curve.h"
#include "cinnabar/planning/set_looks.h"

namespace cinnabar {

void FloorView::askGelCurve() {
  auto* dialog =
      fileDialog(this, tr("A gel's curve: wavelength and share"), tr("Tables (*.csv *.txt);;All files (*)"));
  dialog->setObjectName("gelDialog");
  connect(dialog, &QFileDialog::fileSelected, this, &FloorView::readGelCurve);
  dialog->open();
}

void FloorView::readGelCurve(const QString& path) {
  const QPointer<FloorView> self(this);
  reader_.ask([self, path, light = session_->selection()](const std::atomic<bool>& cancelled) {
    constexpr std::size_t largest_table = 1u << 20;
    const auto text = read_file(path.toStdString(), largest_table);
    Expected<std::vector<PassedAt>> curve =
        text ? read_gel_curve(*text, QFileInfo(path).fileName().toStdString()) : tl::unexpected(text.error());
    if (cancelled) return;
    later(self, [self, light, curve] {
      if (!curve) return void(emit self->session_->message(q(curve.error().text())));
      self->doThing(gel_curve_put(self->session_->onSet(), light, *curve));
    });
  });
}

void FloorView::askPattern() {
  auto* dialog =
      fileDialog(this, tr("A picture that repeats"), tr("Pictures (*.png *.jpg *.jpeg *.svg);;All files (*)"));
  dialog->setObjectName("patternDialog");
  connect(dialog, &QFileDialog::fileSelected, this, &FloorView::readPattern);
  dialog->open();
}

void FloorView::readPattern(const QString& path) {
  const QPointer<FloorView> self(this);
  reader_.ask([self, path, thing = session_->selection()](const std::atomic<bool>& cancelled) {
    const auto png = png_read(path);
    if (cancelled) return;
    later(self, [self, thing, png] {
      Session* session = self->session_;
      if (!png) return void(emit session->message(q(png.error().text())));
      Document next = session->document();
      std::string id = "pattern";
      for (int k = 2; next.blobs.contains(id); ++k) id = "pattern-" + std::to_string(k);
      next.blobs[id] = std::make_shared<const Blob>(Blob{Json{{"type", "image/png"}}, {png->begin(), png->end()}});
      const OnSet on = session->onSet();
      const auto edit = picture_laid({next, on.project, on.shot_index, on.set_time}, thing, id);
      if (!edit) return;
      if (const auto with = with_values(next, edit->values))
        session->keep(edit_between(session->document(), *with, edit->title));
    });
  });
}

}  // namespace cinnabar
