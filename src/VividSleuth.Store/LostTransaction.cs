using System.Data.Common;
using Microsoft.EntityFrameworkCore.Diagnostics;
using Microsoft.EntityFrameworkCore.Storage;
using Npgsql;

namespace VividSleuth.Store;

/// <summary>
/// A line to the database that broke while a transaction was open, and where nobody was told since the framework passes over what fails when it lets go of a
/// savepoint: what comes next says that the database is away, and not that the program is wrong.
/// </summary>
internal sealed class LostTransaction : DbCommandInterceptor, IDbTransactionInterceptor
{
    public override InterceptionResult<DbCommand> CommandCreating(CommandCorrelatedEventData eventData, InterceptionResult<DbCommand> result)
    {
        if (eventData.Context?.Database.CurrentTransaction is { } transaction)
        {
            Check(transaction.GetDbTransaction());
        }

        return result;
    }

    public ValueTask<InterceptionResult> TransactionCommittingAsync(
        DbTransaction transaction,
        TransactionEventData eventData,
        InterceptionResult result,
        CancellationToken cancellationToken = default
    )
    {
        Check(transaction);
        return ValueTask.FromResult(result);
    }

    public ValueTask<InterceptionResult> CreatingSavepointAsync(
        DbTransaction transaction,
        TransactionEventData eventData,
        InterceptionResult result,
        CancellationToken cancellationToken = default
    )
    {
        Check(transaction);
        return ValueTask.FromResult(result);
    }

    /// <summary>A transaction that has ended by itself has no connection any more, or may not be asked for it.</summary>
    private static void Check(DbTransaction transaction)
    {
        try
        {
            if (transaction.Connection is not null)
            {
                return;
            }
        }
        catch (ObjectDisposedException ended)
        {
            throw new NpgsqlException(message: null, ended);
        }

        throw new NpgsqlException();
    }
}
