#include "cinnabar/desktop/workers/film_maker.h"

#include <QBuffer>
#include <algorithm>
#include <cmath>

#include "cinnabar/base/hashed.h"
#include "cinnabar/desktop/workers/later.h"
#include "cinnabar/project/document/json_text.h"

namespace cinnabar {
namespace {

constexpr std::size_t most_bytes = 40U << 20U;
constexpr int rough_passes = 1, better_passes[] = {2, 8};

}  // namespace

FilmMaker::FilmMaker(QObject* parent) : QObject(parent) {}
FilmMaker::~FilmMaker() { worker_.stop(); }

/// A number for what each shot shows: itself, its set-up, the products, the kit and the timeline, at a size.
std::vector<std::uint64_t> FilmMaker::looksOf(const Document& document, const QSize& size) {
  std::uint64_t all = folded(std::to_string(size.width()) + "x" + std::to_string(size.height()));
  for (const auto& [list, items] : document.lists) {
    if (list != "products" && !list.starts_with("kit/")) continue;
    all = folded(list, all);
    for (const JsonPtr& item : items) all = folded(json_text(*item), all);
  }
  if (const Json* project = document.single("project"))
    all = folded(json_text(project->value("timeline_rate", Json())), all);
  // Bytes may be many: the same ones are known by being the very same, and a number stands for them.
  std::map<std::shared_ptr<const Blob>, std::uint64_t> blobs;
  for (const auto& [id, blob] : document.blobs) {
    const auto known = blobs_.find(blob);
    const std::uint64_t number = known == blobs_.end() ? ++lastBlob_ : known->second;
    blobs.emplace(blob, number);
    all = folded(id + std::to_string(number), all);
  }
  blobs_ = std::move(blobs);
  std::vector<std::uint64_t> looks;
  for (const JsonPtr& shot : document.list("shots")) {
    const Json* setup = document.find("setups", shot->value("setup", ""));
    looks.push_back(folded(json_text(*shot), folded(setup ? json_text(*setup) : "", all)));
  }
  return looks;
}

long FilmMaker::frames(const Project& project, std::size_t shot) {
  return std::max(1L, std::lround(project.shots[shot]->screen_time * project.timeline_rate));
}

void FilmMaker::ask(const Document& document, const Project& project, const QSize& size,
                    const std::vector<std::size_t>& shots, const Place& first) {
  looks_ = looksOf(document, size);
  const std::uint64_t ticket = ++ticket_;
  // In the order of the film from where it is looked at, and round.
  std::vector<Place> order;
  for (const std::size_t shot : shots)
    if (shot < project.shots.size() && project.shots[shot]->camera)
      for (long k = 0; k < frames(project, shot); ++k) order.push_back({shot, k});
  std::rotate(order.begin(), std::find(order.begin(), order.end(), first), order.end());
  all_ = static_cast<long>(order.size());
  kept_ = std::count_if(order.begin(), order.end(), [&](const Place& p) { return kept(p); });
  struct Job {
    Place place;
    Key key;
    int passes;
  };
  std::vector<Job> jobs;
  const auto add = [&](const Place& place, int passes) {
    const Key key{looks_[place.shot], place.frame};
    const auto there = pictures_.find(key);
    if (there == pictures_.end() || there->second.passes < passes) jobs.push_back({place, key, passes});
  };
  std::vector<char> taken(order.size());
  for (std::size_t stride = 16; stride > 0; stride /= 2)
    for (std::size_t i = 0; i < order.size(); i += stride)
      if (!taken[i]) taken[i] = 1, add(order[i], rough_passes);
  for (const int passes : better_passes)
    for (const Place& place : order) add(place, passes);
  const QPointer<FilmMaker> self(this);
  worker_.ask([self, ticket, project, size, jobs = std::move(jobs)](const std::atomic<bool>& cancelled) {
    int passes = 0;
    std::unique_ptr<FramePictures> pictures;
    for (const Job& job : jobs) {
      if (job.passes != passes) {
        passes = job.passes;
        pictures = std::make_unique<FramePictures>(
            project, FrameForm{size.width(), size.height(), passes, passes == rough_passes ? 1 : 4}, &cancelled);
      }
      const double screen = static_cast<double>(job.place.frame) / project.timeline_rate;
      const auto rgb = pictures->of(film_frame(project, job.place.shot, screen));
      if (cancelled) return;
      if (!rgb) continue;
      QByteArray jpeg;
      QBuffer out(&jpeg);
      QImage(rgb->data(), size.width(), size.height(), 3 * size.width(), QImage::Format_RGB888)
          .save(&out, "JPG", 92);
      later(self, [self, ticket, key = job.key, jpeg, passes] { self->put(ticket, key, jpeg, passes); });
    }
  });
}

void FilmMaker::put(std::uint64_t ticket, const Key& key, const QByteArray& jpeg, int passes) {
  const auto size = static_cast<std::size_t>(jpeg.size());
  // Room is made by what nobody looks at any more; where there is none left, what is kept stays.
  for (auto old = pictures_.begin(); bytes_ + size > most_bytes && old != pictures_.end();) {
    const bool wanted = std::find(looks_.begin(), looks_.end(), old->first.first) != looks_.end();
    if (!wanted) bytes_ -= static_cast<std::size_t>(old->second.jpeg.size());
    old = wanted ? std::next(old) : pictures_.erase(old);
  }
  const auto there = pictures_.find(key);
  const std::size_t freed = there == pictures_.end() ? 0 : static_cast<std::size_t>(there->second.jpeg.size());
  if (bytes_ + size - freed > most_bytes) return;
  if (there == pictures_.end() && ticket == ticket_) ++kept_;
  bytes_ += size - freed;
  pictures_[key] = {jpeg, passes};
  emit came();
}

bool FilmMaker::kept(const Place& place) const {
  return place.shot < looks_.size() && pictures_.contains({looks_[place.shot], place.frame});
}

std::optional<QImage> FilmMaker::nearest(const Place& place) const {
  if (place.shot >= looks_.size()) return std::nullopt;
  const std::uint64_t look = looks_[place.shot];
  auto after = pictures_.lower_bound({look, place.frame});
  auto best = pictures_.end();
  if (after != pictures_.end() && after->first.first == look) best = after;
  if (after != pictures_.begin()) {
    const auto before = std::prev(after);
    if (before->first.first == look &&
        (best == pictures_.end() || place.frame - before->first.second <= best->first.second - place.frame))
      best = before;
  }
  return best == pictures_.end() ? std::nullopt : std::optional(QImage::fromData(best->second.jpeg, "JPG"));
}

}  // namespace cinnabar
