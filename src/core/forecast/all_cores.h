// Work shared out in order: the first places are begun first, whatever each takes.
#pragma once
#include <tbb/task_arena.h>
#include <tbb/task_group.h>

#include <atomic>
#include <cstddef>

namespace cinnabar {

/// Each place of a row worked at, in order, by all cores.
template <class Work>
void on_all_cores(std::size_t count, const Work& work) {
  std::atomic<std::size_t> next{0};
  const auto take = [&] {
    for (std::size_t i = next++; i < count; i = next++) work(i);
  };
  tbb::task_group group;
  for (int extra = 1; extra < tbb::this_task_arena::max_concurrency(); ++extra) group.run(take);
  take();
  group.wait();
}

}  // namespace cinnabar
