#include "cinnabar/project/model/blobs.h"

#include "cinnabar/photometry/ies.h"

namespace cinnabar {
namespace {

std::string_view text_of(const Blob& blob) {
  return {reinterpret_cast<const char*>(blob.bytes.data()), blob.bytes.size()};
}

/// What was read, shared; nothing where it failed.
template <class T>
std::shared_ptr<const T> shared(Expected<T> read) {
  return read ? std::make_shared<const T>(std::move(*read)) : nullptr;
}

}  // namespace

std::shared_ptr<const Picture> picture_of(const Blob& blob) {
  return blob.memo.get<Picture>([&] { return shared(decode_png(blob.bytes, "picture")); });
}

std::shared_ptr<const PartMesh> mesh_of(const Blob& blob) {
  return blob.memo.get<PartMesh>([&] {
    return shared(
        corners_of_stl(blob.bytes).map([](std::vector<Vec3f> corners) { return part_mesh(std::move(corners)); }));
  });
}

std::shared_ptr<const LightDistribution> measured_light_of(const Blob& blob) {
  return blob.memo.get<LightDistribution>([&] { return shared(read_ies(text_of(blob), "measured light")); });
}

std::optional<Error> blob_fault(const Blob& blob, BlobUse use) {
  const auto error_of = [](const auto& read) { return read ? std::nullopt : std::optional(read.error()); };
  switch (use) {
    case BlobUse::picture:
      return picture_of(blob) ? std::nullopt : error_of(decode_png(blob.bytes, "picture"));
    case BlobUse::mesh:
      return mesh_of(blob) ? std::nullopt : error_of(corners_of_stl(blob.bytes));
    case BlobUse::measured_light:
      return measured_light_of(blob) ? std::nullopt : error_of(read_ies(text_of(blob), "measured light"));
  }
  return std::nullopt;
}

}  // namespace cinnabar
