#include "core/building/stoppable.h"

#include <BRepBuilderAPI_Copy.hxx>
#include <chrono>
#include <condition_variable>
#include <list>
#include <mutex>
#include <thread>

namespace prism {
namespace {

struct Task {
    std::mutex mutex;
    std::condition_variable ended_now;
    bool ended = false;
};

/// Work that nobody waits for any more.
class LeftToEnd {
  public:
    static LeftToEnd& all() {
        static LeftToEnd left;
        return left;
    }
    LeftToEnd() = default;
    LeftToEnd(const LeftToEnd&) = delete;
    LeftToEnd& operator=(const LeftToEnd&) = delete;
    ~LeftToEnd() {
        for (Left& l : left_) l.thread.join();
    }
    void take(std::thread thread, std::shared_ptr<Task> task) {
        const std::lock_guard lock(mutex_);
        std::erase_if(left_, [](Left& l) {
            {
                const std::lock_guard its(l.task->mutex);
                if (!l.task->ended) return false;
            }
            l.thread.join();
            return true;
        });
        left_.push_back({std::move(thread), std::move(task)});
    }

  private:
    struct Left {
        std::thread thread;
        std::shared_ptr<Task> task;
    };
    std::mutex mutex_;
    std::list<Left> left_;
};

} // namespace

TopoDS_Shape copyOf(const TopoDS_Shape& shape) {
    return shape.IsNull() ? shape : BRepBuilderAPI_Copy(shape, false).Shape();
}

bool endedBeforeStop(const Progress& progress, std::function<void()> work) {
    if (progress.cancelled()) return false;
    constexpr std::chrono::milliseconds kAskedEvery{20};
    const auto task = std::make_shared<Task>();
    std::thread thread([task, work = std::move(work)]() mutable {
        work();
        work = {}; // what it holds is let go of on its own thread
        const std::lock_guard lock(task->mutex);
        task->ended = true;
        task->ended_now.notify_all();
    });
    std::unique_lock lock(task->mutex);
    while (!task->ended && !progress.cancelled()) task->ended_now.wait_for(lock, kAskedEvery);
    const bool ended = task->ended;
    lock.unlock();
    if (ended)
        thread.join();
    else
        LeftToEnd::all().take(std::move(thread), task);
    return ended;
}

} // namespace prism
