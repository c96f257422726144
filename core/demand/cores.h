// Independent pieces of work on the cores of the machine.
#pragma once

#include <algorithm>
#include <atomic>
#include <cstddef>
#include <future>
#include <thread>
#include <vector>

namespace fulmox {

/// f(0) … f(count − 1), each once, in any order and at the same time: f(i) may write only what belongs to i, so that the
/// outcome does not depend on the order. An exception of any of them is thrown on.
template <class F> void each_on_a_core(std::size_t count, F&& f) {
    std::atomic<std::size_t> next{0};
    const auto work = [&] {
        for (std::size_t i = next++; i < count; i = next++) f(i);
    };
    const std::size_t cores = std::max(1u, std::thread::hardware_concurrency());
    std::vector<std::future<void>> helpers;
    for (std::size_t k = 1; k < std::min(cores, count); ++k) helpers.push_back(std::async(std::launch::async, work));
    work();
    for (std::future<void>& h : helpers) h.get();
}

} // namespace fulmox
