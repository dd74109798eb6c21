// Drafts on a worker thread: told shot by shot, each with its picture as soon as it is there.
#pragma once
#include <QImage>
#include <QObject>
#include <memory>
#include <set>

#include "cinnabar/desktop/workers/newest.h"
#include "cinnabar/forecast/drafts/draft.h"
#include "cinnabar/project/making/new_spot.h"

namespace cinnabar {

class DraftMaker : public QObject {
  Q_OBJECT
 public:
  explicit DraftMaker(QObject* parent = nullptr) : QObject(parent) {}

  /// A draft from the beginning. A mesh's file is read on the worker and takes the place of the form; the height
  /// given scales it.
  void ask(const SpotInHand& hand, const QString& mesh, unsigned seed);
  /// The spot without shots; a draft that is being made is called off.
  void askBegun(const SpotInHand& hand, const QString& mesh);
  /// Another move for one shot of a draft; `seed` turns what is equal.
  void askAnother(const Draft& draft, std::size_t shot, const std::set<std::string>& refused, unsigned seed);
  void stop() {
    ++ticket_;
    worker_.stop();
  }

 signals:
  /// How far it is: the shots that stand, of how many.
  void grown(std::shared_ptr<const Draft> draft, std::size_t planned);
  /// Pictures by shot id; the first, of a shot still being chosen, bears no id.
  void pictured(const QString& shot, const QImage& picture);
  void done();
  void begun(std::shared_ptr<const Document> document);
  void failed(const QString& why);

 private:
  template <class F>
  void tell(int ticket, F then);
  Forecaster forecaster_;
  int ticket_ = 0;
  Newest worker_;  // last: it uses the others
};

}  // namespace cinnabar
