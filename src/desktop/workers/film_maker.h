// The pictures of the spot as a film, made ahead on a worker and kept while what they show stays as it is.
#pragma once
#include <QImage>
#include <QObject>
#include <compare>
#include <map>
#include <optional>

#include "cinnabar/desktop/workers/newest.h"
#include "cinnabar/formats/frame_pictures.h"
#include "cinnabar/project/document/document.h"

namespace cinnabar {

class FilmMaker : public QObject {
  Q_OBJECT
 public:
  /// One picture of the film: of a shot, so many pictures of the timeline from its beginning.
  struct Place {
    std::size_t shot = 0;
    long frame = 0;
    auto operator<=>(const Place&) const = default;
  };
  explicit FilmMaker(QObject* parent = nullptr);
  ~FilmMaker() override;

  /// Makes the pictures of the shots named that are not kept yet, from `first` on and round: at first every
  /// sixteenth, then those between, then all of them better. What was asked before is left off.
  void ask(const Document& document, const Project& project, const QSize& size,
           const std::vector<std::size_t>& shots, const Place& first);
  void stop() { worker_.stop(); }

  /// The picture of a place, or the nearest one that is kept of its shot.
  [[nodiscard]] std::optional<QImage> nearest(const Place& place) const;
  [[nodiscard]] bool kept(const Place& place) const;
  /// Of what was asked last: how many there are, and how many of them are kept.
  [[nodiscard]] std::pair<long, long> count() const { return {kept_, all_}; }
  /// Pictures of a shot on the timeline.
  [[nodiscard]] static long frames(const Project& project, std::size_t shot);

 signals:
  void came();

 private:
  using Key = std::pair<std::uint64_t, long>;  ///< what the shot looks like, and the frame
  struct Kept {
    QByteArray jpeg;
    int passes = 0;
  };
  [[nodiscard]] std::vector<std::uint64_t> looksOf(const Document& document, const QSize& size);
  void put(std::uint64_t ticket, const Key& key, const QByteArray& jpeg, int passes);

  std::map<Key, Kept> pictures_;
  std::vector<std::uint64_t> looks_;  ///< of each shot of the project asked about
  std::map<std::shared_ptr<const Blob>, std::uint64_t> blobs_;
  std::uint64_t lastBlob_ = 0;
  std::uint64_t ticket_ = 0;
  long kept_ = 0, all_ = 0;
  std::size_t bytes_ = 0;
  Newest worker_;  // last: it uses the others
};

}  // namespace cinnabar
