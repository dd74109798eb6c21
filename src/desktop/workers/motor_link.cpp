#include "cinnabar/desktop/workers/motor_link.h"

#include <cmath>

#include "cinnabar/desktop/theme/words.h"

namespace cinnabar {
namespace {

constexpr int poll_every = 200;  // ms: also what keeps it from stopping for silence
constexpr std::size_t most_reports = 200'000, lines_at_once = 200, most_unheard = 25;

}  // namespace

MotorLink::MotorLink(QObject* parent)
    : LineLink(
          {.hello = "ok motion 1",
           .stranger = tr("What answers there is no motion controller that is known; see its socket"),
           .gone = tr("The controller has gone"),
           .nobody = tr("No controller answers at that socket; start one there, for example cinnabar-motion")},
          parent) {
  poll_.setInterval(poll_every);
  connect(&poll_, &QTimer::timeout, this, [this] {
    polls_unheard_ = heardSince() ? 0 : polls_unheard_ + 1;
    if (polls_unheard_ <= most_unheard) return where();
    over(tr("The controller does not answer; see that it runs, then join it again"));
  });
}

void MotorLink::welcomed() {
  ask("watch 20");
  poll_.start();
  emit changed();
}

/// What was under way is over.
void MotorLink::forget() {
  poll_.stop();
  polls_unheard_ = 0;
  program_.clear();
  loaded_ = false;
  state_.clear();
  ended();
}

void MotorLink::load(const std::string& program, double begins) {
  program_ = q(program).split('\n', Qt::SkipEmptyParts);
  loaded_ = false;
  begins_ = begins;
  ask(QString("load %1").arg(program_.size()), [this](const QString& answer) {
    if (!answer.startsWith("ok")) return emit told(answer.mid(6), true);
    send(0);
  });
}

/// So many lines, each with its number; the next when the last of them was taken.
void MotorLink::send(std::size_t from) {
  const std::size_t all = static_cast<std::size_t>(program_.size()), until = std::min(all, from + lines_at_once);
  for (std::size_t k = from; k < until; ++k)
    ask(QString("%1 %2").arg(k + 1).arg(program_[static_cast<qsizetype>(k)]),
        [this, k, until, all](const QString& answer) {
          if (!answer.startsWith("ok")) {
            if (!program_.isEmpty()) emit told(answer.mid(6), true);
            program_.clear();  // what comes after it is refused for the same reason
          } else if (k + 1 == all) {
            ask("check", [this](const QString& checked) {
              loaded_ = checked.startsWith("ok");
              emit told(loaded_ ? tr("Loaded and within its limits: %1").arg(checked.mid(3)) : checked.mid(6),
                        !loaded_);
              emit changed();
            });
          } else if (k + 1 == until && !program_.isEmpty()) {
            send(until);
          }
        });
}

void MotorLink::run() {
  reports_.clear();
  ask("run", [this](const QString& answer) {
    running_ = answer.startsWith("ok");
    if (!running_) emit told(answer.mid(6), true);
  });
}

void MotorLink::jog(std::size_t axis, double by, double speed) {
  ask(QString("jog %1 %2 %3").arg(QChar(axis_letters[axis])).arg(by, 0, 'f', 4).arg(speed, 0, 'f', 4));
}

/// What is still to be loaded is given up with it.
void MotorLink::stop() {
  program_.clear();
  ask("stop");
  where();
}

void MotorLink::release() {
  ask("release");
  where();
}

void MotorLink::where() {
  ask("where", [this](const QString& answer) {
    if (answer.startsWith("ok ")) take(answer.split(' ', Qt::SkipEmptyParts), 1);
  });
}

bool MotorLink::unasked(const QString& line) {
  const QStringList words = line.split(' ', Qt::SkipEmptyParts);
  if (words[0] == "at") {
    take(words, 1);
    return true;
  }
  if (words[0] != "done" && words[0] != "stopped") return false;
  if (words[0] == "stopped") emit told(tr("It stopped: %1").arg(line.mid(8)), true);
  ended();
  where();
  return true;
}

/// State, seconds of the run, and the axes with their letters.
void MotorLink::take(const QStringList& words, int from) {
  bool read = false;
  const double seconds = from + 1 < words.size() ? words[from + 1].toDouble(&read) : 0.0;
  if (!read || !std::isfinite(seconds)) return;
  for (int k = from + 2; k < words.size(); ++k) {
    const auto axis = axis_letters.find(words[k][0].toLatin1());
    const double value = words[k].mid(1).toDouble(&read);
    if (read && std::isfinite(value) && axis != std::string_view::npos) places_[axis] = value;
  }
  state_ = words[from];
  run_seconds_ = seconds;
  if (running_ && state_ == "moving" && reports_.size() < most_reports) reports_.push_back({setTime(), places_});
  if (running_ && state_ == "stopped") ended();
  emit changed();
}

void MotorLink::ended() {
  if (!std::exchange(running_, false)) return;
  emit ran(reports_);
}

}  // namespace cinnabar
