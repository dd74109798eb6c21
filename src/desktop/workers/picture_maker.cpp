#include "cinnabar/desktop/workers/picture_maker.h"

#include <QElapsedTimer>
#include <cmath>

#include "cinnabar/forecast/measures/world_number.h"
#include "cinnabar/render/filter.h"
#include "cinnabar/render/first_look.h"
#include "cinnabar/render/speckles.h"

namespace cinnabar {

QImage developedImage(const Picture& luminances, const StagedCamera& camera) {
  const auto bytes = developed(luminances, signal_per_luminance(camera));
  return QImage(bytes.data(), luminances.width, luminances.height, luminances.width * 3, QImage::Format_RGB888)
      .copy();
}

namespace {

constexpr double firstWithin = 0.125;  // seconds until a first picture is traced; filter and display come after it

int heightFor(const StagedWorld& world, int width) {
  const auto& o = world.camera.optics;
  return std::clamp(static_cast<int>(std::lround(width * o.sensor_height / o.sensor_width)), 1, 4 * width);
}

/// Their edges, and dots within, by pixel of the film.
QImage markedStrays(const Film& film, const Setup& setup) {
  const Mesh* last = nullptr;
  bool last_strays = false;
  std::vector<char> stray(film.pixels());
  for (std::size_t p = 0; p < film.pixels(); ++p) {
    if (const Mesh* mesh = film.first[p].mesh; mesh != last)
      last = mesh, last_strays = mesh && must_not_be_seen(setup, *mesh);
    stray[p] = last_strays;
  }
  QImage marks(film.width, film.height, QImage::Format_ARGB32_Premultiplied);
  marks.fill(Qt::transparent);
  const QRgb ink = qPremultiply(qRgba(255, 236, 190, 220));
  const int apart = std::max(4, film.width / 80);
  for (int y = 0; y < film.height; ++y)
    for (int x = 0; x < film.width; ++x) {
      if (!stray[film.at(x, y)]) continue;
      const bool edge = (x > 0 && !stray[film.at(x - 1, y)]) ||
                        (x + 1 < film.width && !stray[film.at(x + 1, y)]) ||
                        (y > 0 && !stray[film.at(x, y - 1)]) || (y + 1 < film.height && !stray[film.at(x, y + 1)]);
      if (edge || (x % apart == 0 && y % apart == 0)) marks.setPixel(x, y, ink);
    }
  return marks;
}

}  // namespace

PictureMaker::PictureMaker(int passes, QObject* parent) : QObject(parent), allPasses_(passes) {
  qRegisterMetaType<std::shared_ptr<const LensPicture>>();
}

void PictureMaker::ask(const Project& project, std::size_t shot, double setTime, int width,
                       const std::string& solo) {
  if (shot >= project.shots.size() || width < 8) return worker_.stop();
  worker_.ask([this, project, of = project.shots[shot], setTime, width, solo](const std::atomic<bool>& cancelled) {
    make(project, *of, setTime, width, solo, cancelled);
  });
}

void PictureMaker::deliver(const Film& film, const std::shared_ptr<const StagedWorld>& world, const Setup* setup,
                           const std::string& solo, int passes, double setTime) {
  auto out = std::make_shared<LensPicture>();
  out->film = std::make_shared<const Film>(film);
  out->world = world;
  out->tracer = kept_.tracer;
  out->set_time = setTime;
  out->luminances = calm(film, layer_weights(*world, solo));
  if (passes < allPasses_) out->luminances = filtered(out->luminances, film, passes < 16 ? 3 : 2);
  out->image = developedImage(out->luminances, world->camera);
  out->passes = passes;
  out->on_backdrop = layer_shares(film, layer_weights(*world), Role::backdrop);
  if (setup) out->strays = stray_things(film, *setup);
  if (!out->strays.empty()) out->stray_marks = markedStrays(film, *setup);
  out->settled = passes >= allPasses_;
  emit picture(out);
}

void PictureMaker::make(const Project& project, const Shot& shot, double setTime, int width,
                        const std::string& solo, const std::atomic<bool>& cancelled) {
  QElapsedTimer clock;
  clock.start();
  auto world = std::make_shared<const StagedWorld>(stage(project, shot, setTime));
  const Setup* setup = by_id(project.setups, shot.setup);
  const std::uint64_t key = arrangement_of(*world) ^ static_cast<std::uint64_t>(width);
  // A cancelled pass leaves what the film had before it: what only changes lights or exposure is then still mixed
  // from there.
  const auto pass = [&](Film& film) {
    Film next = film;
    if (!kept_.tracer->add_pass(next, &cancelled)) return false;
    film = std::move(next);
    return true;
  };
  if (!kept_.tracer || kept_.key != key) {
    kept_ = {key, std::make_shared<const Tracer>(world), {}, {}};
    kept_.film = kept_.tracer->film(width, heightFor(*world, width), Caustics::by_photons);
  }
  if (kept_.film.passes > 0) {
    deliver(kept_.film, world, setup, solo, kept_.film.passes, setTime);
  } else {
    if (kept_.small.passes == 0) {  // something true at once
      auto small = first_look(*kept_.tracer, width / 2, heightFor(*world, width) / 2 + 1,
                              firstWithin - 1e-9 * static_cast<double>(clock.nsecsElapsed()), &cancelled);
      if (!small) return;
      kept_.small = *std::move(small);
    }
    deliver(kept_.small, world, setup, solo, 0, setTime);
  }
  while (kept_.film.passes < allPasses_) {
    if (cancelled || !pass(kept_.film)) return;
    const int n = kept_.film.passes;
    if (n <= 4 || n % 4 == 0) deliver(kept_.film, world, setup, solo, n, setTime);
  }
}

QImage thumbnail(const Project& project, const Shot& shot, int width, const std::atomic<bool>& cancelled,
                 const ThumbnailOptions& options) {
  const double middle = shot.facing ? std::min(shot.clock.set_at(shot.facing->at), shot.set_time())
                                    : 0.5 * std::max(0.0, shot.set_time());
  auto world =
      std::make_shared<const StagedWorld>(stage(project, shot, middle, {.motion = false, .segments = 48}));
  const Tracer tracer(world);
  Film film = tracer.film(width, heightFor(*world, width), Caustics::by_photons);
  std::vector<char> middle_part(film.pixels(), 0);
  const double edge = 0.5 * film.width * (1.0 - options.middle);
  for (std::size_t p = 0; p < film.pixels(); ++p) {
    const double x = static_cast<double>(p % static_cast<std::size_t>(film.width)) + 0.5;
    middle_part[p] = x > edge && x < film.width - edge;
  }
  for (int pass = 0; pass < options.passes; ++pass)
    if (!tracer.add_pass(film, &cancelled, nullptr, options.middle < 1.0 ? &middle_part : nullptr)) return {};
  return developedImage(filtered(mixed(film, layer_weights(*world)), film, 3), world->camera);
}

}  // namespace cinnabar
