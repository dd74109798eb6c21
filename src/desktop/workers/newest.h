// A worker thread on which the newest request wins: asking again cancels what runs and drops what waits.
#pragma once
#include <atomic>
#include <condition_variable>
#include <functional>
#include <mutex>
#include <optional>
#include <thread>
#include <vector>

#include "cinnabar/desktop/workers/turns.h"

namespace cinnabar {

class Newest {
 public:
  using Job = std::function<void(const std::atomic<bool>& cancelled)>;
  Newest() : thread_([this] { run(); }) {}
  Newest(const Newest&) = delete;
  Newest& operator=(const Newest&) = delete;
  ~Newest() {
    {
      const std::lock_guard lock(mutex_);
      ending_ = true;
      cancel_ = true;
    }
    wake_.notify_all();
    thread_.join();
  }

  void ask(Job job) {
    {
      const std::lock_guard lock(mutex_);
      waiting_ = std::move(job);
      cancel_ = true;
    }
    wake_.notify_all();
  }
  /// Cancels what runs and drops what waits.
  void stop() {
    const std::lock_guard lock(mutex_);
    waiting_.reset();
    cancel_ = true;
  }

 private:
  void run() {
    // The interface thread comes first where cores are scarce; the threads that tracing starts from here inherit
    // this.
    takeTurns(10, 0);
    for (;;) {
      Job job;
      {
        std::unique_lock lock(mutex_);
        wake_.wait(lock, [this] { return ending_ || waiting_; });
        if (ending_) return;
        job = std::move(*waiting_);
        waiting_.reset();
        cancel_ = false;
      }
      job(cancel_);
    }
  }

  std::mutex mutex_;
  std::condition_variable wake_;
  std::optional<Job> waiting_;
  std::atomic<bool> cancel_{false};
  bool ending_ = false;
  std::thread thread_;  // last: it uses all the others
};

/// Jobs one after another on a thread of their own, none lost; those waiting are done before the end.
class InOrder {
 public:
  InOrder() : thread_([this] { run(); }) {}
  InOrder(const InOrder&) = delete;
  InOrder& operator=(const InOrder&) = delete;
  ~InOrder() {
    {
      const std::lock_guard lock(mutex_);
      ending_ = true;
    }
    wake_.notify_all();
    thread_.join();
  }
  void add(std::function<void()> job) {
    {
      const std::lock_guard lock(mutex_);
      jobs_.push_back(std::move(job));
    }
    wake_.notify_all();
  }

 private:
  void run() {
    takeTurns(::getpriority(PRIO_PROCESS, 0), 0);  // not the interface's short ones
    for (;;) {
      std::function<void()> job;
      {
        std::unique_lock lock(mutex_);
        wake_.wait(lock, [this] { return ending_ || !jobs_.empty(); });
        if (jobs_.empty()) return;
        job = std::move(jobs_.front());
        jobs_.erase(jobs_.begin());
      }
      job();
    }
  }
  std::mutex mutex_;
  std::condition_variable wake_;
  std::vector<std::function<void()>> jobs_;
  bool ending_ = false;
  std::thread thread_;
};

}  // namespace cinnabar
