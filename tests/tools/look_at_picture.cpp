// look_at_picture FILE.png WIDTH HEIGHT: a picture of that size in which something is drawn all over; else it says
// what is wrong with it. For the scripts that take pictures of the window.
#include <cstdio>
#include <cstdlib>
#include <set>

#include "cinnabar/base/files.h"
#include "cinnabar/color/picture.h"

int main(int argc, char** argv) {
  using namespace cinnabar;
  if (argc != 4) return std::fputs("look_at_picture FILE.png WIDTH HEIGHT\n", stderr), 2;
  const auto bytes = read_file(argv[1]);
  const auto picture = bytes ? decode_png({bytes->begin(), bytes->end()}, argv[1])
                             : Expected<Picture>(tl::unexpected(bytes.error()));
  if (!picture) return std::fprintf(stderr, "%s\n", picture.error().text().c_str()), 1;
  if (picture->width != std::atoi(argv[2]) || picture->height != std::atoi(argv[3]))
    return std::fprintf(stderr, "%s is %d x %d\n", argv[1], picture->width, picture->height), 1;
  constexpr int across = 16, down = 10;
  int drawn = 0;
  std::set<float> colours;
  for (int ty = 0; ty < down; ++ty)
    for (int tx = 0; tx < across; ++tx) {
      std::set<float> own;
      for (int y = ty * picture->height / down; y < (ty + 1) * picture->height / down; ++y)
        for (int x = tx * picture->width / across; x < (tx + 1) * picture->width / across; ++x) {
          const Rgb& c = picture->pixels[static_cast<std::size_t>(y) * static_cast<std::size_t>(picture->width) +
                                         static_cast<std::size_t>(x)];
          own.insert(c.x + 3 * c.y + 7 * c.z);
        }
      drawn += own.size() > 1 ? 1 : 0;
      colours.merge(own);
    }
  std::printf("%s: %d of %d tiles drawn, %zu colours\n", argv[1], drawn, across * down, colours.size());
  return drawn > across * down / 3 && colours.size() > 100 ? 0 : 1;
}
