// What works on several threads: workers, memos, measures, rows that are read when they are looked at. Run under
// the thread sanitizer too.
#include <gtest/gtest.h>

#include <atomic>
#include <future>
#include <set>
#include <thread>

#include "cinnabar/desktop/workers/newest.h"
#include "cinnabar/project/document/json_ptr.h"
#include "cinnabar/project/model/blobs.h"
#include "cinnabar/project/store/store.h"
#include "private_folder.h"
#include "worlds.h"

namespace cinnabar {
namespace {

template <class F>
void on_threads(int count, F work) {
  std::vector<std::thread> threads;
  for (int k = 0; k < count; ++k) threads.emplace_back(work, k);
  for (std::thread& t : threads) t.join();
}

TEST(Newest, DoesTheLastRequestAndCancelsWhatRuns) {
  std::atomic<int> last{-1}, cancelled{0};
  std::promise<void> done;
  Newest worker;
  for (int k = 0; k < 200; ++k)
    worker.ask([&, k](const std::atomic<bool>& stop) {
      while (k < 199 && !stop) std::this_thread::yield();
      if (stop) ++cancelled;
      last = k;
      if (k == 199) done.set_value();
    });
  done.get_future().wait();
  EXPECT_EQ(last, 199);
}

TEST(Newest, EndsWhileAJobRuns) {
  std::promise<void> began;
  std::atomic<bool> ended{false};
  {
    Newest worker;
    worker.ask([&](const std::atomic<bool>& stop) {
      began.set_value();
      while (!stop) std::this_thread::yield();
      ended = true;
    });
    began.get_future().wait();
  }
  EXPECT_TRUE(ended) << "it was waited for";
}

TEST(Newest, StopsWithoutAnswering) {
  Newest worker;
  std::promise<void> began, left;
  worker.ask([&](const std::atomic<bool>& stop) {
    began.set_value();
    while (!stop) std::this_thread::yield();
    left.set_value();
  });
  began.get_future().wait();
  worker.stop();
  left.get_future().wait();
  std::promise<void> again;
  worker.ask([&](const std::atomic<bool>&) { again.set_value(); });
  again.get_future().wait();
}

TEST(InOrder, DoesAllOfThemInTheirOrderBeforeItEnds) {
  std::vector<int> order;
  {
    InOrder worker;
    for (int k = 0; k < 500; ++k) worker.add([&order, k] { order.push_back(k); });
  }
  ASSERT_EQ(order.size(), 500u);
  EXPECT_TRUE(std::is_sorted(order.begin(), order.end()));
}

TEST(InOrder, TakesJobsFromManyThreads) {
  std::atomic<int> done{0};
  {
    InOrder worker;
    on_threads(4, [&](int) {
      for (int k = 0; k < 200; ++k) worker.add([&] { ++done; });
    });
  }
  EXPECT_EQ(done, 800);
}

TEST(StoredRows, AreLookedAtByManyThreadsAtOnce) {
  StoredRows rows;
  for (int k = 0; k < 300; ++k) {
    const std::string id = "t" + std::to_string(k);
    rows.add(id, R"({"id":")" + id + R"(","number":)" + std::to_string(k) + "}", k);
  }
  const auto list = std::move(rows).taken();
  std::atomic<long> sum{0};
  on_threads(4, [&](int) {
    long own = 0;
    for (const JsonPtr& row : list) own += row->at("number").get<long>();
    sum += own;
  });
  EXPECT_EQ(sum, 4L * 299 * 300 / 2);
}

TEST(Memo, ReadsABlobOnceForAllWhoAsk) {
  const Blob blob{Json{{"type", "image/png"}}, *base64_decoded(worlds::dot_png)};
  std::array<std::shared_ptr<const Picture>, 4> seen;
  on_threads(4, [&](int k) { seen[static_cast<std::size_t>(k)] = picture_of(blob); });
  ASSERT_NE(seen[0], nullptr);
  for (const auto& picture : seen) EXPECT_EQ(picture, seen[0]);
}

TEST(Documents, AreSharedWithReadersWhileAWriterGoesOn) {
  const FolderOfItsOwn folder;
  auto store = std::move(*Store::create(folder.file("p.cinnabar"), *Document::from_json(worlds::bare())));
  InOrder files;
  std::atomic<int> read{0};
  std::vector<std::thread> readers;
  Document now = store->document();
  for (int k = 0; k < 40; ++k) {
    const Document next = *with_value(now, "/shots/0/camera/iso", 100 + k);
    const Edit edit = edit_between(now, next, "ISO");
    files.add([&store, edit] { EXPECT_TRUE(store->apply(edit)); });
    readers.emplace_back([next, &read] {
      ProjectReader reader;
      read += static_cast<int>(reader.read(next).shots.size());
    });
    now = next;
  }
  for (std::thread& t : readers) t.join();
  std::promise<void> flushed;
  files.add([&] { flushed.set_value(); });
  flushed.get_future().wait();
  EXPECT_EQ(read, 40);
  EXPECT_EQ(store->document().to_json(), now.to_json());
}

}  // namespace
}  // namespace cinnabar
