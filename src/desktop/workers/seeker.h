// Ways to something that is wanted, looked for on a worker thread: wishes, methods, stops, fewer lights. Each is
// an answer that can be tried and taken; its picture comes after it.
#pragma once
#include <QImage>
#include <QObject>
#include <QStringList>
#include <functional>
#include <memory>
#include <vector>

#include "cinnabar/desktop/workers/newest.h"
#include "cinnabar/forecast/forecast.h"

namespace cinnabar {

/// A line about a way, with the state whose colour it has; unknown: plain.
struct WayLine {
  QString text;
  State tone = State::unknown;
};
/// One way to what was asked for.
struct Way {
  QString title;
  QString why;  ///< for the tooltip
  std::vector<WayLine> lines;
  Document after;
  std::shared_ptr<const Project> project{};  ///< the same, read: the seeker's own doing
};
struct Ways {
  std::vector<Way> list;
  QString none;  ///< said where it is empty
};

/// Looks for ways on a thread of its own; any thread may run it, and it holds all that it needs.
using WaySearch = std::function<Ways(const Document&, std::size_t shot, const std::atomic<bool>& cancelled)>;

class Seeker : public QObject {
  Q_OBJECT
 public:
  explicit Seeker(QObject* parent = nullptr) : QObject(parent) {}
  /// Its number, by which found() and pictured() answer. What was looked for before is called off.
  int seek(const Document& document, std::size_t shot, WaySearch search);
  /// Calls off what is looked for or drawn.
  void stop();

 signals:
  void found(int number, std::shared_ptr<const Ways> ways);
  void pictured(int number, int way, const QImage& picture);

 private:
  int asked_ = 0;
  Newest worker_;  // last: it uses the others
};

}  // namespace cinnabar
Q_DECLARE_METATYPE(std::shared_ptr<const cinnabar::Ways>)
