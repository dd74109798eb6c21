// The spot as a film.
#include <fmt/format.h>

#include <chrono>
#include <csignal>

#include "cinnabar/base/files.h"
#include "cinnabar/base/text.h"
#include "cinnabar/cli/commands.h"
#include "cinnabar/formats/animatic.h"
#include "cinnabar/project/document/json_text.h"

namespace cinnabar {
namespace {

std::atomic<bool> stopped{false};
static_assert(std::atomic<bool>::is_always_lock_free, "set by a signal");

}  // namespace

int animatic_command(const Answer& answer, const AnimaticArguments& a) {
  const auto in = opened(a.file);
  if (!in) return answer.refuse(in.error());
  AnimaticOptions options;
  options.of = json_text(in->document.to_json());
  if (!a.size.empty()) {
    const auto size = size_argument("--size", a.size);
    if (!size) return answer.refuse(size.error());
    options.width = size->first, options.height = size->second;
  }
  if (!a.rate.empty()) {
    options.rate = parse_rate(a.rate);
    if (!options.rate)
      return answer.refuse({"--rate " + a.rate, "is no rate", "give pictures a second, such as 25 or 24000/1001"});
  }
  if (!a.shot.empty()) {
    const auto shot = shot_numbered(in->project, a.shot);
    if (!shot) return answer.refuse(shot.error());
    options.shot = *shot;
  }
  const auto passes = number_argument("--passes", a.passes, 1, 64);
  if (!passes) return answer.refuse(passes.error());
  options.passes = static_cast<int>(*passes);
  if (same_file(a.file, a.out))
    return answer.refuse(
        {a.out, "is the project itself; nothing was written", "name another file", Fault::output});
  std::signal(SIGINT, [](int) { stopped = true; });
  options.cancel = &stopped;
  const auto start = std::chrono::steady_clock::now();
  auto told = start;
  options.progress = [&](long done, long all) {
    const auto now = std::chrono::steady_clock::now();
    if (now - told < std::chrono::seconds(2) && done < all) return;
    told = now;
    Answer::remark(fmt::format("picture {} of {}", done, all));
  };
  const auto made = write_animatic(in->project, a.out, options);
  std::signal(SIGINT, SIG_DFL);
  if (!made) return answer.refuse(made.error());
  const double took = std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count();
  answer.say(fmt::format("{}: {} pictures, {} s of film, in {} s", a.out, made->frames,
                         number_text(made->seconds, 4), number_text(took, 3)));
  answer.give(
      {{"written", a.out}, {"frames", made->frames}, {"seconds", made->seconds}, {"traced", made->traced}});
  return 0;
}

}  // namespace cinnabar
