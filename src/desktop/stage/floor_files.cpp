// What is read from files for things on the floor: the curve of a gel, the picture of a pattern.
#include <QFileInfo>
#include <QPointer>

#include "cinnabar/base/files.h"
#include "cinnabar/color/texture.h"
#include "cinnabar/desktop/controls/sheets.h"
#include "cinnabar/desktop/edits/hand.h"
#include "cinnabar/desktop/edits/picture_file.h"
#include "cinnabar/desktop/stage/floor_view.h"
#include "cinnabar/desktop/theme/words.h"
#include "cinnabar/desktop/workers/later.h"
#include "cinnabar/formats/gel_curve.h"
#include "cinnabar/planning/set_looks.h"
#include "cinnabar/project/model/blobs.h"

namespace cinnabar {

void FloorView::askFile(const char* name, const QString& title, const QString& kinds,
                        void (FloorView::*read)(const QString&)) {
  auto* dialog = fileDialog(this, title, kinds + ";;" + tr("All files (*)"));
  dialog->setObjectName(name);
  connect(dialog, &QFileDialog::fileSelected, this, read);
  dialog->open();
}

/// What was in hand when its file was asked for; nothing where something else is by now.
Selection FloorView::stillInHand(const Selection& thing, const std::string& pointer, const QString& name) const {
  const OnSet on = session_->onSet();
  const bool same = pointer_of(on, thing) == pointer && nameOf(*session_, thing) == name;
  return same ? thing : Selection{};
}

void FloorView::readGelCurve(const QString& path) {
  const QPointer<FloorView> self(this);
  const Selection light = session_->selection();
  reader_.ask([self, path, light, pointer = pointer_of(session_->onSet(), light),
               name = nameOf(*session_, light)](const std::atomic<bool>& cancelled) {
    constexpr std::size_t largest_table = 1u << 20;
    const auto text = read_file(path.toStdString(), largest_table);
    Expected<std::vector<PassedAt>> curve =
        text ? read_gel_curve(*text, QFileInfo(path).fileName().toStdString()) : tl::unexpected(text.error());
    if (cancelled) return;
    later(self, [self, light, pointer, name, curve] {
      if (!curve) return void(emit self->session_->message(q(curve.error().text())));
      self->doThing(gel_curve_put(self->session_->onSet(), self->stillInHand(light, pointer, name), *curve));
    });
  });
}

void FloorView::readPattern(const QString& path) {
  const QPointer<FloorView> self(this);
  const Selection thing = session_->selection();
  reader_.ask([self, path, thing, pointer = pointer_of(session_->onSet(), thing),
               name = nameOf(*session_, thing)](const std::atomic<bool>& cancelled) {
    const auto png = png_read(path);
    std::shared_ptr<const Blob> blob;
    if (png) {  // read and evened out here, so that who lays it need not
      blob = std::make_shared<const Blob>(Blob{Json{{"type", "image/png"}}, {png->begin(), png->end()}});
      if (const auto picture = picture_of(*blob)) static_cast<void>(tile_of(picture, {1, 1, 1}));
    }
    if (cancelled) return;
    later(self, [self, thing, pointer, name, blob, fault = png ? QString() : q(png.error().text())] {
      Session* session = self->session_;
      if (!blob) return void(emit session->message(fault));
      Document next = session->document();
      std::string id = "pattern";
      for (int k = 2; next.blobs.contains(id); ++k) id = "pattern-" + std::to_string(k);
      next.blobs[id] = blob;
      const OnSet on = session->onSet();
      const auto edit = picture_laid({next, on.project, on.shot_index, on.set_time},
                                     self->stillInHand(thing, pointer, name), id);
      if (!edit) return;
      if (const auto with = with_values(next, edit->values))
        session->keep(edit_between(session->document(), *with, edit->title));
    });
  });
}

}  // namespace cinnabar
