#include "cinnabar/desktop/workers/seeker.h"

#include <QPointer>

#include "cinnabar/desktop/workers/later.h"
#include "cinnabar/desktop/workers/picture_maker.h"

namespace cinnabar {

namespace {
constexpr int picture_width = 200;
}

int Seeker::seek(const Document& document, std::size_t shot, WaySearch search) {
  const int number = ++asked_;
  const QPointer<Seeker> self(this);
  worker_.ask([self, number, document, shot, search = std::move(search)](const std::atomic<bool>& cancelled) {
    auto found = search(document, shot, cancelled);
    ProjectReader reader;  // what the ways share is read once
    for (Way& way : found.list) way.project = std::make_shared<const Project>(reader.read(way.after));
    const auto ways = std::make_shared<const Ways>(std::move(found));
    if (cancelled) return;
    later(self, [self, number, ways] {
      if (number == self->asked_) emit self->found(number, ways);
    });
    for (std::size_t w = 0; w < ways->list.size(); ++w) {
      const Project& project = *ways->list[w].project;
      if (shot >= project.shots.size()) return;
      const QImage picture = thumbnail(project, *project.shots[shot], picture_width, cancelled);
      if (cancelled) return;
      later(self, [self, number, w, picture] {
        if (number == self->asked_) emit self->pictured(number, static_cast<int>(w), picture);
      });
    }
  });
  return number;
}

void Seeker::stop() {
  ++asked_;
  worker_.stop();
}

}  // namespace cinnabar
