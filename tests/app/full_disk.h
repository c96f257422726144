#pragma once
#include <csignal>
#include <sys/resource.h>

namespace fulmox::testing {

// While it lives, no file can grow beyond a few bytes: a full disk as far as this process can tell.
struct FullDisk {
    rlimit before{};
    FullDisk() {
        std::signal(SIGXFSZ, SIG_IGN);
        getrlimit(RLIMIT_FSIZE, &before);
        rlimit tight{512, before.rlim_max};
        setrlimit(RLIMIT_FSIZE, &tight);
    }
    ~FullDisk() { setrlimit(RLIMIT_FSIZE, &before); }
};

} // namespace fulmox::testing
